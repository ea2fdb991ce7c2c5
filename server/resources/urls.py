"""Routes of the resources room: the organisation's resources, and what stands below a project."""

from django.urls import path

from server.resources import api

everywhere = [path("resources", api.OrganisationView.as_view())]
urlpatterns = [
    path("plan/lists", api.ListsView.as_view()),
    path("plan/offered", api.OfferedView.as_view()),
    path("loads", api.LoadsView.as_view()),
    path("loads/<str:row>/assigned", api.AssignedView.as_view()),
    path("loads/<str:row>/remedies", api.RemediesView.as_view()),
]
