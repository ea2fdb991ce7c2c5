"""The plan's rows are kept with the rest of the book."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [('plan', '0004_skills'), ('posting', '0003_ground'), ('baseline', '0003_ground'), ('calendar', '0003_ground'), ('journal', '0002_ground')]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel('Assignment'),
                migrations.DeleteModel('DirectCost'),
                migrations.DeleteModel('Link'),
                migrations.DeleteModel('Estimate'),
                migrations.DeleteModel('RegisterEntry'),
                migrations.DeleteModel('Choice'),
                migrations.DeleteModel('Activity'),
                migrations.DeleteModel('Resource'),
                migrations.DeleteModel('WbsElement'),
                migrations.DeleteModel('Project'),
            ]
        ),
    ]
