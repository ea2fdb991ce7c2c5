"""The stand-in for mail, for tests that send some: what it took is looked at in `kept`."""

import socket
import tempfile
import unittest
from pathlib import Path

from aiosmtpd.controller import Controller
from django.test import override_settings

from stand_ins.outbox import Kept, taking


class WithOutbox(unittest.TestCase):
    """A test with an outbox of its own, that is there until it is stopped; mail to the application itself goes on into `inbox`."""

    inbox: Path | None = None

    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.kept = Kept(Path(folder.name))
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port: int = probe.getsockname()[1]
        self.outbox: Controller | None = taking(self.kept, self.port, self.inbox)
        self.outbox.start()
        self.addCleanup(self.stop)
        settings = override_settings(OUTBOX_PORT=self.port)
        settings.enable()
        self.addCleanup(settings.disable)

    def stop(self) -> None:
        """From now on nobody takes mail."""
        if self.outbox is not None:
            self.outbox.stop()
        self.outbox = None
