"""Routes of the report room, below a page."""

from django.urls import path, re_path

from server.report.api import EditionView, IssueView, ReportView

urlpatterns = [
    path("report", ReportView.as_view()),
    path("report/issue", IssueView.as_view()),
    re_path(r"^report/editions/(?P<number>draft|[0-9]{1,6})\.(?P<form>html|pdf)$", EditionView.as_view()),
]
