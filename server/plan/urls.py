"""Routes of the plan room."""

from django.urls import path

from server.plan import api

PROJECT = "projects/<str:project>"
urlpatterns = [
    path("projects", api.DeskView.as_view()),
    path("templates", api.TemplatesView.as_view()),
    path("states", api.StatesView.as_view()),
    path("holidays", api.HolidaysView.as_view()),
    path(PROJECT, api.FrameView.as_view()),
    path(f"{PROJECT}/plan", api.PlanView.as_view()),
    path(f"{PROJECT}/plan/changes", api.PlanChangesView.as_view()),
    path(f"{PROJECT}/plan/lists", api.ListsView.as_view()),
    path(f"{PROJECT}/plan/rows/<str:row>", api.RowView.as_view()),
    path(f"{PROJECT}/plan/views", api.ViewsView.as_view()),
    path(f"{PROJECT}/plan/<str:way>", api.PlanTurnView.as_view()),
    path(f"{PROJECT}/about", api.ProjectPageView.as_view()),
]
