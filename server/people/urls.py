"""Routes of the people room."""

from django.urls import path

from server.people import api

urlpatterns = [
    path("people", api.PeopleView.as_view()),
    path("people/list", api.PeopleCsvView.as_view()),
    path("people/<int:id>", api.PersonView.as_view()),
    path("access", api.AccessView.as_view()),
    path("access/<str:code>", api.ProjectAccessView.as_view()),
    path("audit", api.AuditView.as_view()),
    path("audit.csv", api.AuditFile.as_view()),
    path("projects/<str:project>/members", api.MembersView.as_view()),
]
