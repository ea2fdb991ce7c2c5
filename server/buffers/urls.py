"""Routes of the buffers room, below a page."""

from django.urls import path

from server.buffers import api

urlpatterns = [
    path("buffers", api.BuffersView.as_view()),
    path("buffers/untie", api.UntieView.as_view()),
    path("buffers/promise", api.PromiseView.as_view()),
]
