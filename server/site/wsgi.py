"""The application as a WSGI server takes it."""

import gc
import os
import threading

from django.core.wsgi import get_wsgi_application
from django.urls import resolve

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.site.settings")
application = get_wsgi_application()
resolve("/api/health")  # reads every route now, so that nobody's first request waits for it

# Plans live long in memory: looking through them for garbage at every few hundred objects costs more than the work itself.
gc.set_threshold(100_000, 50, 100)


def _keep_ahead() -> None:
    """Read the plans that were worked on last, and keep the desk up to date, so that nobody waits for the first look at them."""
    from django.db import connection

    from server.desk.summaries import keep_up
    from server.plan.sheet import read_ahead

    try:
        read_ahead()
    finally:
        connection.close()
    keep_up()


threading.Thread(target=_keep_ahead, daemon=True).start()
