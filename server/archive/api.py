"""A project as an archive over HTTP. Bringing one in is a file like any other (`server.exchange`)."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request

from server.archive.writing import archive
from server.book.access import ProjectView
from server.shared.files import download


class ArchiveView(ProjectView):
    """The project with everything that was sealed in it."""

    @extend_schema(responses={(200, "application/zip"): OpenApiTypes.BINARY}, operation_id="archive")
    def get(self, request: Request, project: str) -> HttpResponse:
        return download(archive(self.access.project), f"{self.access.project.code} archive.zip", "application/zip")
