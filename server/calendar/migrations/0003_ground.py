"""Calendars are kept with the rest of the book."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [('calendar', '0002_order'), ('book', '0001_initial')]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel('Calendar'),
            ]
        ),
    ]
