"""Routes of the asking room, below a page; and those of whoever is asked."""

from django.urls import URLPattern, path

from server.asking.api import (
    AnswersView,
    AskingView,
    InboxView,
    LookAheadView,
    MyWorkView,
    OneSheetView,
    ReadSheetView,
    RemindView,
    RequestView,
    TokenSheetView,
)

urlpatterns = [
    path("asking", AskingView.as_view()),
    path("asking/remind", RemindView.as_view()),
    path("asking/answers", AnswersView.as_view()),
    path("asking/sheet", ReadSheetView.as_view()),
    path("asking/inbox", InboxView.as_view()),
    path("asking/<int:id>", RequestView.as_view()),
    path("asking/<int:id>/sheet.<str:form>", OneSheetView.as_view()),
    path("look-ahead.<str:form>", LookAheadView.as_view()),
]

everywhere: list[URLPattern] = [path("my-work", MyWorkView.as_view()), path("sheets/<str:token>", TokenSheetView.as_view())]
