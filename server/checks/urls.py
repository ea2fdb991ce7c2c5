"""Routes of the checks room: below a page, and the limits below a project."""

from django.urls import URLPattern, path

from server.checks import api

urlpatterns = [
    path("checks", api.ChecksView.as_view()),
    path("checks/signs", api.SignsView.as_view()),
    path("checks/quality.csv", api.QualityView.as_view()),
    path("checks/answers", api.AnswersView.as_view()),
]
of_project: list[URLPattern] = [path("limits", api.LimitsView.as_view())]
