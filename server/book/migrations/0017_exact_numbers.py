"""Numbers as decimal text. The database would write a number in 15 digits; those that need more are written as they are read."""

from typing import Any

from django.db import migrations

import server.book.rows

NUMBERS = {
    "Activity": ("weight",),
    "Assignment": ("quantity", "units"),
    "Calendar": ("hours_per_day", "hours_per_month", "hours_per_week"),
    "ReportLayout": ("levels",),
    "Resource": ("units",),
    "Statement": ("percent", "units_done"),
    "WbsElement": ("weight",),
}
_long: dict[tuple[str, str], dict[int, str]] = {}


def note_long(apps: Any, editor: Any) -> None:
    """Remember the numbers that 15 digits do not tell."""
    for model, columns in NUMBERS.items():
        for column in columns:
            rows = apps.get_model("book", model)._default_manager.exclude(**{column: None}).values_list("pk", column)
            _long[model, column] = {pk: repr(value) for pk, value in rows if float(f"{value:.15g}") != value}


def write_long(apps: Any, editor: Any) -> None:
    """Write them whole."""
    for (model, column), rows in _long.items():
        for pk, text in rows.items():
            apps.get_model("book", model)._default_manager.filter(pk=pk).update(**{column: text})


class Migration(migrations.Migration):
    dependencies = [("book", "0016_external_by")]
    operations = [
        migrations.RunPython(note_long, migrations.RunPython.noop),
        *(
            migrations.AlterField(model.lower(), column, server.book.rows.NumberField(max_length=60, null=True))
            for model, columns in NUMBERS.items()
            for column in columns
        ),
        migrations.RunPython(write_long, migrations.RunPython.noop),
    ]
