"""Routes of the desk."""

from django.urls import path, re_path

from server.desk.api import DeskFile, FrameView, ProjectsView

urlpatterns = [
    path("projects", ProjectsView.as_view()),
    re_path(r"^desk\.(?P<form>csv|xlsx)$", DeskFile.as_view()),
    path("projects/<str:project>", FrameView.as_view()),
]
