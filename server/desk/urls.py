"""Routes of the desk."""

from django.urls import path, re_path

from server.desk import api

urlpatterns = [
    path("projects", api.ProjectsView.as_view()),
    re_path(r"^desk\.(?P<form>csv|xlsx|pdf)$", api.DeskFile.as_view()),
    path("desk/sums", api.DeskSumsView.as_view()),
    path("desk/statistics", api.DeskStatisticsView.as_view()),
    path("desk/curve", api.DeskCurveView.as_view()),
    path("desk/people", api.DeskPeopleView.as_view()),
    path("desk/views", api.DeskViewsView.as_view()),
    path("projects/<str:project>", api.FrameView.as_view()),
]
