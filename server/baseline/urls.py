"""Routes of the baseline room, below a project."""

from django.urls import path

from server.baseline import api

urlpatterns = [
    path("baselines", api.ShelfView.as_view()),
    path("baselines/differences", api.DifferencesView.as_view()),
    path("baselines/<path:baseline>/back", api.BackView.as_view()),
]
