"""Routes of the calendar room."""

from django.urls import path

from server.calendar.api import HolidaysView

urlpatterns = [path("holidays", HolidaysView.as_view())]
