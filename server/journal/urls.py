"""Routes of the journal, below a project."""

from django.urls import path

from server.journal.api import JournalFileView, JournalView

urlpatterns = [path("journal", JournalView.as_view()), path("journal.csv", JournalFileView.as_view())]
