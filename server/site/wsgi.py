"""The application as a WSGI server takes it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.site.settings")
application = get_wsgi_application()
