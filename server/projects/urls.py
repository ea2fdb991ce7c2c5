"""Routes of the projects room."""

from django.urls import path

from server.projects import api

urlpatterns = [
    path("templates", api.TemplatesView.as_view()),
    path("kinds", api.KindsView.as_view()),
    path("states", api.StatesView.as_view()),
    path("projects/<str:project>/standing", api.StandingView.as_view()),
    path("projects/<str:project>/place", api.PlaceView.as_view()),
    path("projects/<str:project>/delete", api.DeleteView.as_view()),
    path("projects/<str:project>/about", api.ProjectPageView.as_view()),
]
