"""Routes of the value room: the catalogue of figures, and those below a page."""

from django.urls import path, re_path

from server.value import api

everywhere = [path("figures", api.CatalogueView.as_view())]
urlpatterns = [
    path("balance", api.BalanceView.as_view()),
    path("value", api.ValueView.as_view()),
    path("value/figures", api.OfferedView.as_view()),
    re_path(r"^value\.(?P<form>csv|xlsx)$", api.ValueFile.as_view()),
    path("selection", api.SelectionView.as_view()),
    path("curve", api.CurveView.as_view()),
    path("statistics", api.StatisticsView.as_view()),
    re_path(r"^statistics\.(?P<form>csv|xlsx)$", api.StatisticsFile.as_view()),
    path("work", api.WorkView.as_view()),
    re_path(r"^work\.(?P<form>csv|xlsx)$", api.WorkFile.as_view()),
    path("working", api.WorkingView.as_view()),
    path("trend", api.TrendView.as_view()),
    re_path(r"^trend\.(?P<form>csv|xlsx)$", api.PagesFile.as_view()),
    path("compared", api.ComparedView.as_view()),
    path("compared.csv", api.ComparedFile.as_view()),
    path("activities/<path:activity>", api.ActivityView.as_view()),
]
