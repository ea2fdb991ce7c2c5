"""Routes of the baseline room, below a project."""

from django.urls import path

from server.baseline import api

urlpatterns = [
    path("baselines", api.ShelfView.as_view()),
    path("baselines/differences", api.DifferencesView.as_view()),
    path("baselines/asked", api.AsksView.as_view()),
    path("baselines/asked/<int:pk>", api.AskedView.as_view()),
    path("baselines/of-project", api.ElsewhereView.as_view()),
    path("baselines/<path:baseline>/back", api.BackView.as_view()),
    path("baselines/<path:baseline>/away", api.BaselineView.as_view()),
]
