"""Routes of the posting room, below a page, and of undo, below a project."""

from django.urls import URLPattern, path

from server.posting.api import CloseView, EntriesView, EntryView, RedoView, SheetView, ToPlanView, UndoView

urlpatterns = [
    path("posting", SheetView.as_view()),
    path("posting/entries", EntriesView.as_view()),
    path("posting/to-plan", ToPlanView.as_view()),
    path("posting/activities/<path:activity>", EntryView.as_view()),
    path("close", CloseView.as_view()),
]

of_project: list[URLPattern] = [path("undo", UndoView.as_view()), path("redo", RedoView.as_view())]
