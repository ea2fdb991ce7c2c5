"""Routes of the value room: the catalogue of figures, and those below a page."""

from django.urls import path

from server.value import api

everywhere = [path("figures", api.CatalogueView.as_view())]
urlpatterns = [
    path("balance", api.BalanceView.as_view()),
    path("value", api.ValueView.as_view()),
    path("selection", api.SelectionView.as_view()),
    path("curve", api.CurveView.as_view()),
    path("statistics", api.StatisticsView.as_view()),
    path("statistics.csv", api.StatisticsFile.as_view()),
    path("work", api.WorkView.as_view()),
    path("work.csv", api.WorkFile.as_view()),
    path("working", api.WorkingView.as_view()),
    path("progress-lines", api.LinesView.as_view()),
    path("trend", api.TrendView.as_view()),
    path("compared", api.ComparedView.as_view()),
    path("timeline", api.TimelineView.as_view()),
    path("activities/<path:activity>", api.ActivityView.as_view()),
]
