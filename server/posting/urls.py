"""Routes of the posting room, below a page, and of undo, below a project."""

from django.urls import URLPattern, path

from server.posting.api import (
    BarsView,
    CarryView,
    CorrectionsView,
    CostsView,
    CostTotalsView,
    EntriesView,
    HistoryView,
    HoursView,
    PlannedView,
    RedoView,
    SheetView,
    TreatmentsView,
    UndoView,
)
from server.posting.api_pages import CloseView, NoteView, OpenView, StatusView, TakeBackView

urlpatterns = [
    path("posting", SheetView.as_view()),
    path("posting/entries", EntriesView.as_view()),
    path("posting/hours", HoursView.as_view()),
    path("posting/costs", CostsView.as_view()),
    path("posting/costs/totals", CostTotalsView.as_view()),
    path("posting/corrections", CorrectionsView.as_view()),
    path("posting/planned", PlannedView.as_view()),
    path("posting/bars", BarsView.as_view()),
    path("posting/carry", CarryView.as_view()),
    path("treatments", TreatmentsView.as_view()),
    path("status", StatusView.as_view()),
    path("note", NoteView.as_view()),
    path("close", CloseView.as_view()),
    path("take-back", TakeBackView.as_view()),
]

of_project: list[URLPattern] = [
    path("history/<path:activity>", HistoryView.as_view()),
    path("next-page", OpenView.as_view()),
    path("undo", UndoView.as_view()),
    path("redo", RedoView.as_view()),
]
