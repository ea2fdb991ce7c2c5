"""Words and editions belong to pages where these are kept now."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [('report', '0001_initial'), ('book', '0001_initial')]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField('draft', 'page', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='draft', to='book.page')),
                migrations.AlterField('edition', 'page', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='editions', to='book.page')),
            ]
        ),
    ]
