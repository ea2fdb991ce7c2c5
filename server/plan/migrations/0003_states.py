"""The life-cycle states that an organisation begins with; an approver changes them."""

from django.db import migrations

STATES = ("Idea", "In planning", "Approved", "Under way", "On hold", "Finished")


def begin(apps, schema_editor):
    choice = apps.get_model("plan", "Choice")
    for i, word in enumerate(STATES):
        choice.objects.get_or_create(list="state", word=word, defaults={"order": i})


class Migration(migrations.Migration):
    dependencies = [("plan", "0002_registers")]
    operations = [migrations.RunPython(begin, migrations.RunPython.noop)]
