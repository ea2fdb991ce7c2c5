"""Routes of the budget room, below a project."""

from django.urls import path, re_path

from server.budget import api

urlpatterns = [
    path("budget", api.BudgetView.as_view()),
    path("pages/<str:page>/money", api.MoneyView.as_view()),
    path("pages/<str:page>/spending", api.SpendingView.as_view()),
    re_path(r"^pages/(?P<page>[^/]+)/spending\.(?P<form>csv|xlsx)$", api.SpendingFile.as_view()),
    path("changes/<str:change>/decision", api.DecisionView.as_view()),
    path("estimates", api.EstimatesView.as_view()),
    path("estimates/try", api.TriedView.as_view()),
]
