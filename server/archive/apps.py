"""An archive is one more file that a new project comes from."""

from django.apps import AppConfig


class ArchiveConfig(AppConfig):
    """Has archives read where files are brought in."""

    name = "server.archive"

    def ready(self) -> None:
        from server.archive.bringing import bring_archive
        from server.exchange.bringing import also_brings

        also_brings(bring_archive)
