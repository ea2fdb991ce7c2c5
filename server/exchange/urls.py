"""Routes of the exchange room."""

from django.urls import path

from server.exchange import api

urlpatterns = [
    path("import", api.BringNewView.as_view()),
    path("projects/<str:project>/import", api.BringView.as_view()),
    path("projects/<str:project>/baselines/of-file", api.BaselineFileView.as_view()),
    path("projects/<str:project>/export/<str:file>", api.ExportView.as_view()),
]
