"""Routes of the plan room, below a project."""

from django.urls import path

from server.plan import api

urlpatterns = [
    path("plan", api.PlanView.as_view()),
    path("plan/changes", api.PlanChangesView.as_view()),
    path("plan/rows/<str:row>", api.RowView.as_view()),
    path("plan/views", api.ViewsView.as_view()),
    path("plan/<str:way>", api.PlanUndoView.as_view()),
]
