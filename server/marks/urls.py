"""Routes of the marks room, below a page."""

from django.urls import path

from server.marks import api

urlpatterns = [
    path("marks", api.MarksView.as_view()),
    path("marks/try", api.TryView.as_view()),
    path("marks/sets", api.SetsView.as_view()),
    path("marks/sets/<int:pk>", api.SetView.as_view()),
]
