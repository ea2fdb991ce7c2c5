"""The journal has its own part in verifying a project."""

from django.apps import AppConfig


class JournalConfig(AppConfig):
    """Adds the journal's check to verifying."""

    name = "server.journal"

    def ready(self) -> None:
        from server.book.verify import also_verify
        from server.journal import following  # noqa: F401  follows the steps of others
        from server.journal.sealed import journal_faults

        also_verify(journal_faults)
