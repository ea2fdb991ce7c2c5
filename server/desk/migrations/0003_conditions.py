"""Views kept of the desk: one value of one column becomes a condition, an order a column that is sorted by."""

import json
from typing import Any

from django.db import migrations

ORDERS = {"name": "name", "late": "-late_days", "vac": "vac", "cpi": "cpi", "spi": "spi"}


def changed(look: dict[str, Any]) -> dict[str, Any]:
    """A view as it is kept from now on."""
    filters = dict(look.get("filters", {}))
    by, value = filters.pop("by", ""), filters.pop("is", "")
    if by and value:
        filters["where"] = json.dumps([{"key": by, "text": f"= {value}"}])
    order = look.get("order", "")
    return look | {"filters": filters, "order": ORDERS.get(order, order)}


def forwards(apps: Any, schema_editor: Any) -> None:
    for view in apps.get_model("desk", "View").objects.all():
        view.look = changed(view.look)
        view.save(update_fields=["look"])


class Migration(migrations.Migration):
    dependencies = [("desk", "0002_summaries")]

    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
