"""Routes of the posting room, below a page."""

from django.urls import path

from server.posting.api import CloseView, EntryView, SheetView, ToPlanView

urlpatterns = [
    path("posting", SheetView.as_view()),
    path("posting/to-plan", ToPlanView.as_view()),
    path("posting/activities/<path:activity>", EntryView.as_view()),
    path("close", CloseView.as_view()),
]
