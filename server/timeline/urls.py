"""Routes of the timeline, below a page."""

from django.urls import path

from server.timeline import api

urlpatterns = [
    path("timeline", api.TimelineView.as_view()),
    path("timeline/print", api.PrintView.as_view()),
    path("progress-lines", api.LinesView.as_view()),
]
