"""Pages are kept with the rest of the book."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [('posting', '0002_order'), ('book', '0001_initial'), ('report', '0002_ground')]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel('Statement'),
                migrations.DeleteModel('HoursEntry'),
                migrations.DeleteModel('CostEntry'),
                migrations.DeleteModel('Page'),
            ]
        ),
    ]
