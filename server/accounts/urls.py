"""Routes of the accounts room."""

from django.urls import path

from server.accounts import api

urlpatterns = [
    path("session", api.SessionView.as_view()),
    path("session/formats", api.FormatsView.as_view()),
    path("session/password", api.PasswordView.as_view()),
    path("sessions", api.SessionsView.as_view()),
    path("sessions/<int:id>", api.OneSessionView.as_view()),
]
