"""Routes of the journal, below a project."""

from django.urls import path

from server.journal.api import JournalView

urlpatterns = [path("journal", JournalView.as_view())]
