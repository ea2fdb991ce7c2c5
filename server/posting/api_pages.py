"""Pages over HTTP: their status date and note, closing one, opening the next, taking one back."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.posting import pages
from server.shared.forms import Revision, read
from server.shared.schema import serializer_for


class Close(Revision):
    """Closing a page: the status date of the next, as typed; absent: the one proposed."""

    next = serializers.CharField(required=False, allow_blank=True, max_length=100)


class StatusForm(Revision):
    """A status date as typed."""

    status = serializers.CharField(max_length=100)


class NoteForm(Revision):
    """The note of a page."""

    note = serializers.CharField(allow_blank=True, max_length=100_000, trim_whitespace=False)


class Proposal(serializers.Serializer[object]):
    """The status date proposed for the next page."""

    status = serializers.CharField()


StatusAnswer = serializer_for(pages.StatusOut)
PageAnswer = serializer_for(pages.PageState)


class CloseView(ProjectView):
    """Close the page and open the next, as of the date that is named or the one proposed."""

    needs = {"post": (Role.ANALYST, "close a page")}

    @extend_schema(request=Close, responses=PageAnswer, operation_id="close_page")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(Close, request)
        return Response(pages.close_page(self.access, page, form["revision"], form.get("next")))


class StatusView(ProjectView):
    """The status date of the open page: what another would do, and moving it."""

    needs = {"post": (Role.ANALYST, "move a status date"), "patch": (Role.ANALYST, "move a status date")}

    @extend_schema(request=StatusForm, responses=StatusAnswer, operation_id="try_status")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(StatusForm, request)
        return Response(pages.try_status(self.access, page, form["status"]))

    @extend_schema(request=StatusForm, responses=StatusAnswer, operation_id="set_status")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(StatusForm, request)
        return Response(pages.set_status(self.access, page, form["revision"], form["status"]))


class NoteView(ProjectView):
    """The note of the open page."""

    needs = {"patch": (Role.ANALYST, "post on a page")}

    @extend_schema(request=NoteForm, responses=PageAnswer, operation_id="set_page_note")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(NoteForm, request)
        return Response(pages.set_note(self.access, page, form["revision"], form["note"]))


class TakeBackView(ProjectView):
    """Take back the latest page, where it says nothing yet."""

    needs = {"post": (Role.ANALYST, "close a page")}

    @extend_schema(request=Revision, responses=PageAnswer, operation_id="take_back_page")
    def post(self, request: Request, project: str, page: str) -> Response:
        return Response(pages.take_back(self.access, page, read(Revision, request)["revision"]))


class OpenView(ProjectView):
    """Open the next page, where none is open."""

    needs = {"post": (Role.ANALYST, "close a page")}

    @extend_schema(responses=Proposal, operation_id="next_status")
    def get(self, request: Request, project: str) -> Response:
        return Response({"status": pages.next_proposed(self.access)})

    @extend_schema(request=Close, responses=PageAnswer, operation_id="open_page")
    def post(self, request: Request, project: str) -> Response:
        form = read(Close, request)
        return Response(pages.open_page(self.access, form["revision"], form.get("next")))
