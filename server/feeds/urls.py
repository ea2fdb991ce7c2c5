"""Routes of feeds: below a project, and posting one below a page."""

from django.urls import URLPattern, path

from server.feeds import api

urlpatterns = [
    path("feeds", api.FeedsView.as_view()),
    path("feeds/<int:feed>", api.FeedView.as_view()),
    path("feeds/<int:feed>/fetch", api.FetchView.as_view()),
    path("feeds/<int:feed>/rows", api.RightView.as_view()),
]
of_page: list[URLPattern] = [path("feeds/<int:feed>/post", api.PostTrayView.as_view())]
