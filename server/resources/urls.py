"""Routes of the resources room, below a project."""

from django.urls import path

from server.resources import api

urlpatterns = [path("plan/lists", api.ListsView.as_view()), path("loads", api.LoadsView.as_view())]
