"""Routes of the report room, below a page and below a project."""

from django.urls import path, re_path

from server.report import api, api_sending

urlpatterns = [
    path("report", api.ReportView.as_view()),
    path("report/layout", api.LayoutView.as_view()),
    path("report/additions", api.AdditionsView.as_view()),
    path("report/review", api.ReviewView.as_view()),
    path("report/issue", api.IssueView.as_view()),
    re_path(r"^report/editions/(?P<number>draft|[0-9]{1,6})\.(?P<form>html|pdf|xlsx)$", api.EditionView.as_view()),
    re_path(r"^report/editions/(?P<number>[0-9]{1,6})/compared$", api.EditionsComparedView.as_view()),
    re_path(r"^report/editions/(?P<number>[0-9]{1,6})/send$", api_sending.SendView.as_view()),
]
of_project = [
    path("distribution", api_sending.RecipientsView.as_view()),
    path("distribution/<int:pk>", api_sending.RecipientView.as_view()),
]
