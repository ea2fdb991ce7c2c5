"""Migrate as Django does it; the tables of an empty database are laid at once, as the models have them, with every step noted as taken.

To go through all the steps takes ten seconds, for an installation and for each database of tests alike.
"""

from typing import Any

from django.apps import apps
from django.core.management.commands.migrate import Command as Migrate
from django.db import connections
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder


class Command(Migrate):
    """Django's own, which begins with all tables where there are none."""

    def handle(self, *args: Any, **options: Any) -> None:
        if not options["app_label"] and not options["plan"] and not options["check_unapplied"]:
            lay(options["database"])
        super().handle(*args, **options)


def lay(database: str) -> bool:
    """Whether the database was empty, and has all tables now: with all of them or, where something stops it, with none."""
    connection = connections[database]
    with connection.schema_editor() as editor:
        if connection.introspection.table_names():
            return False
        for model in apps.get_models():
            if model._meta.managed and not model._meta.proxy:
                editor.create_model(model)
        recorder = MigrationRecorder(connection)
        editor.create_model(recorder.Migration)
        recorder.migration_qs.bulk_create(
            recorder.Migration(app=app, name=name) for app, name in MigrationLoader(connection).disk_migrations
        )
    return True
