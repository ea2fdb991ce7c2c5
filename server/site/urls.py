"""Every route: the API under /api/, and the web page for all else."""

from django.urls import include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from server.shared.problems import not_found
from server.site.page import web_page

PROJECT = "projects/<str:project>/"
PAGE = f"{PROJECT}pages/<str:page>/"

api = [
    path("schema", SpectacularAPIView.as_view(), name="schema"),
    path("", include("server.accounts.urls")),
    path("", include("server.exchange.urls")),
    path("", include("server.plan.urls")),
    path(PROJECT, include("server.journal.urls")),
    path(PROJECT, include("server.budget.urls")),
    path(PROJECT, include("server.baseline.urls")),
    path(PAGE, include("server.posting.urls")),
    path(PAGE, include("server.value.urls")),
    path(PAGE, include("server.report.urls")),
]

urlpatterns = [path("api/", include(api)), re_path(r"^api/", not_found), re_path(r"^(?!static/).*$", web_page)]
handler404 = "server.shared.problems.page_not_found"
handler500 = "server.shared.problems.server_error"
