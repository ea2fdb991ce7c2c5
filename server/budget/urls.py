"""Routes of the budget room, below a project."""

from django.urls import path

from server.budget import api

urlpatterns = [
    path("budget", api.BudgetView.as_view()),
    path("pages/<str:page>/money", api.MoneyView.as_view()),
    path("changes/<str:change>/decision", api.DecisionView.as_view()),
    path("estimates", api.EstimatesView.as_view()),
    path("estimates/try", api.TriedView.as_view()),
]
