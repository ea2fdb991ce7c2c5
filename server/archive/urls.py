"""Routes of the archive room."""

from django.urls import path

from server.archive.api import ArchiveView

urlpatterns = [path("archive", ArchiveView.as_view())]
