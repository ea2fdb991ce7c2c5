"""Routes of the plan room."""

from django.urls import path

from server.plan.api import DeskView, FrameView

urlpatterns = [path("projects", DeskView.as_view()), path("projects/<str:project>", FrameView.as_view())]
