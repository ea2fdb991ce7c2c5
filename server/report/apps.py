"""Reports have their own part in verifying a project."""

from django.apps import AppConfig


class ReportConfig(AppConfig):
    """Adds the editions' check to verifying."""

    name = "server.report"

    def ready(self) -> None:
        from server.book.verify import also_verify
        from server.report.sealed import edition_faults

        also_verify(edition_faults)
