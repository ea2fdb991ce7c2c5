"""Steps belong to projects where these are kept now; each says the role that it took."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [('journal', '0001_initial'), ('book', '0001_initial')]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField('step', 'project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='steps', to='book.project')),
            ]
        ),
        migrations.AddField('step', 'role', models.CharField(default='analyst', max_length=20)),
        migrations.AddField('step', 'dropped', models.BooleanField(default=False)),
    ]
