"""Routes of the options room, below a project."""

from django.urls import path

from server.options import api

urlpatterns = [
    path("options", api.OptionsView.as_view()),
    path("options/overlay", api.OverlayView.as_view()),
    path("options/proposals", api.ProposalsView.as_view()),
    path("options/level/<str:mode>", api.LevelView.as_view()),
    path("options/ask", api.AskView.as_view()),
    path("options/remarks", api.RemarksView.as_view()),
    path("options/<int:pk>", api.OptionView.as_view()),
    path("options/<int:pk>/adopt", api.AdoptView.as_view()),
    path("options/<int:pk>/rebase", api.RebaseView.as_view()),
    path("options/<int:pk>/changes/<int:number>/drop", api.OptionChangeView.as_view()),
    path("options/<int:pk>/plan", api.OptionPlanView.as_view()),
    path("options/<int:pk>/plan/changes", api.OptionChangesView.as_view()),
    path("options/<int:pk>/plan/rows/<str:row>", api.OptionRowView.as_view()),
    path("options/<int:pk>/plan/<str:way>", api.OptionUndoView.as_view()),
]
