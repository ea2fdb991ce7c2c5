"""Routes of the accounts room."""

from django.urls import path

from server.accounts.api import SessionView

urlpatterns = [path("session", SessionView.as_view())]
