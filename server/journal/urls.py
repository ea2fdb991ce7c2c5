"""Routes of the journal, below a project."""

from django.urls import path

from server.journal.api import JournalView, RedoView, UndoView

urlpatterns = [path("journal", JournalView.as_view()), path("undo", UndoView.as_view()), path("redo", RedoView.as_view())]
