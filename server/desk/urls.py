"""Routes of the desk."""

from django.urls import path

from server.desk.api import FrameView, ProjectsView

urlpatterns = [path("projects", ProjectsView.as_view()), path("projects/<str:project>", FrameView.as_view())]
