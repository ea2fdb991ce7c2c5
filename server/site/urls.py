"""Every route: the API under /api/, and the web page for all else."""

from django.urls import URLPattern, URLResolver, include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from server.asking.urls import everywhere as asked
from server.checks.urls import of_project as limits
from server.feeds.urls import of_page
from server.posting.urls import of_project
from server.report.urls import of_project as sending
from server.resources.urls import everywhere as resources
from server.shared.problems import not_found
from server.site.health import HealthView
from server.site.page import web_page
from server.value.urls import everywhere

PROJECT = "projects/<str:project>/"
PAGE = f"{PROJECT}pages/<str:page>/"

api: list[URLPattern | URLResolver] = [
    path("schema", SpectacularAPIView.as_view(), name="schema"),
    path("health", HealthView.as_view()),
    *(path("", include(f"server.{room}.urls")) for room in ("accounts", "people", "desk", "projects", "exchange", "calendar")),
    *(
        path(PROJECT, include(f"server.{room}.urls"))
        for room in ("journal", "resources", "plan", "budget", "baseline", "feeds", "options", "archive")
    ),
    path("", include([*everywhere, *resources, *asked])),
    path(PROJECT, include([*of_project, *limits, *sending])),
    path(PAGE, include(of_page)),
    *(
        path(PAGE, include(f"server.{room}.urls"))
        for room in ("posting", "asking", "checks", "marks", "value", "timeline", "buffers", "report")
    ),
]

urlpatterns = [path("api/", include(api)), re_path(r"^api/", not_found), re_path(r"^(?!static/).*$", web_page)]
handler404 = "server.shared.problems.page_not_found"
handler500 = "server.shared.problems.server_error"
