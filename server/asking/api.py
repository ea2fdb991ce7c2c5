"""Asking over HTTP: whom, the tray, sheets out and back, the look-ahead; and one's own work."""

from django.conf import settings
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.permissions import AllowAny
from rest_framework.request import Request as HttpRequest
from rest_framework.response import Response
from rest_framework.views import APIView

from dryledger.posting.look_ahead import WAYS
from server.accounts.models import Role
from server.accounts.roles import person_of
from server.asking import actions, lookahead, selectors, sheet
from server.asking.inbox import InboxOut, read_inbox
from server.asking.keeping import KeptAnswer
from server.asking.models import Request
from server.book.access import ProjectView, RoleView
from server.book.models import Page
from server.exchange.sheets import MOST_BYTES
from server.shared.files import XLSX, download
from server.shared.forms import OneOf, Revision, query, read
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence

ASKING = (Role.ANALYST, sentence("asking.ask"))
PDF = "application/pdf"
MOST_PEOPLE = 500


class WeeksQuery(serializers.Serializer[object]):
    """How many weeks beyond the status date."""

    weeks = serializers.IntegerField(default=0, min_value=0, max_value=actions.MOST_WEEKS)


class WhomForm(serializers.Serializer[object]):
    """Somebody to be asked, with the address that the sheet goes to; absent `activities` are theirs that are due."""

    name = serializers.CharField(max_length=200)
    email = serializers.CharField(max_length=254, required=False, allow_blank=True)
    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=2_000)


class PeopleAskForm(serializers.Serializer[object]):
    """Whom to ask, for what is due within how many weeks after the status date, until when as typed."""

    whom = WhomForm(many=True)
    weeks = serializers.IntegerField(default=0, min_value=0, max_value=actions.MOST_WEEKS)
    until = serializers.CharField(max_length=100, allow_blank=True, default="")

    def validate_whom(self, whom: list[object]) -> list[object]:
        if len(whom) > MOST_PEOPLE:
            raise serializers.ValidationError(sentence("asking.too_many", most=MOST_PEOPLE))
        return whom


class RemindForm(serializers.Serializer[object]):
    """Who is reminded."""

    requests = serializers.ListField(child=serializers.IntegerField(), allow_empty=False, max_length=MOST_PEOPLE)


class TakeForm(Revision):
    """Answers to take, answers to leave, and cells of an answer, by its id, that are taken otherwise."""

    take = serializers.ListField(child=serializers.IntegerField(), default=list, max_length=5_000)
    leave = serializers.ListField(child=serializers.IntegerField(), default=list, max_length=5_000)
    changed = serializers.DictField(
        child=serializers.DictField(child=serializers.CharField(allow_blank=True, max_length=4_000)), default=dict
    )


class HoursGiven(serializers.Serializer[object]):
    """Hours of one resource as typed."""

    worked = serializers.CharField(required=False, allow_blank=True, max_length=100)
    to_go = serializers.CharField(required=False, allow_blank=True, max_length=100)


class GivenForm(serializers.Serializer[object]):
    """An answer: its giver's own name for it, the request, the activity, what it says in cells as typed, and hours by resource."""

    uid = serializers.CharField(max_length=64)
    request = serializers.IntegerField()
    activity = serializers.CharField(max_length=100)
    cells = serializers.DictField(child=serializers.CharField(allow_blank=True, max_length=10_000), default=dict)
    hours = serializers.DictField(child=HoursGiven(), default=dict)


class AnswersForm(serializers.Serializer[object]):
    """Answers, each kept by itself."""

    answers = GivenForm(many=True)

    def validate_answers(self, answers: list[object]) -> list[object]:
        if len(answers) > actions.MOST_ANSWERS:
            raise serializers.ValidationError(sentence("asking.too_many", most=actions.MOST_ANSWERS))
        return answers


class SheetFile(serializers.Serializer[object]):
    """A sheet that was filled in."""

    file = serializers.FileField()


class LookQuery(serializers.Serializer[object]):
    """How many weeks, and in what groups."""

    weeks = serializers.IntegerField(default=3, min_value=1, max_value=lookahead.MOST_WEEKS)
    by = OneOf(WAYS, default="person")


AskingAnswer = serializer_for(selectors.AskingOut)
ReadAnswer = serializer_for(sheet.ReadOut)
FILE = {(200, XLSX): OpenApiTypes.BINARY, (200, PDF): OpenApiTypes.BINARY}
FORM = OpenApiParameter("form", str, OpenApiParameter.PATH, enum=["xlsx", "pdf"])


def _file(request: HttpRequest) -> tuple[str, bytes]:
    form = SheetFile(data=request.data)
    form.is_valid(raise_exception=True)
    file = form.validated_data["file"]
    if file.size > MOST_BYTES:
        raise Refused("too-large", sentence("exchange.file_larger_mb_nothing"), 413, field="file")
    return file.name, file.read()


class AskingView(ProjectView):
    """Who can be asked on a page and who was, and the tray; asking them."""

    needs = {"get": ASKING, "post": ASKING}

    @extend_schema(parameters=[WeeksQuery], responses=AskingAnswer, operation_id="asking")
    def get(self, request: HttpRequest, project: str, page: str) -> Response:
        return Response(selectors.asking(self.access.view(page), query(WeeksQuery, request)["weeks"]))

    @extend_schema(request=PeopleAskForm, responses=AskingAnswer, operation_id="ask_people")
    def post(self, request: HttpRequest, project: str, page: str) -> Response:
        form = read(PeopleAskForm, request)
        return Response(actions.ask_people(self.access, page, form["whom"], form["weeks"], form["until"]))


class RemindView(ProjectView):
    """Reminding people."""

    needs = {"post": ASKING}

    @extend_schema(request=RemindForm, responses=AskingAnswer, operation_id="remind_people")
    def post(self, request: HttpRequest, project: str, page: str) -> Response:
        return Response(actions.remind(self.access, page, read(RemindForm, request)["requests"]))


class RequestView(ProjectView):
    """One request: taking it back."""

    needs = {"delete": ASKING}

    @extend_schema(responses={200: AskingAnswer}, operation_id="ask_no_more")
    def delete(self, request: HttpRequest, project: str, page: str, id: int) -> Response:
        return Response(actions.take_back_request(self.access, page, id))


class AnswersView(ProjectView):
    """Taking answers onto the page, or leaving them."""

    needs = {"patch": ASKING}

    @extend_schema(request=TakeForm, responses=serializer_for(actions.TakenOut), operation_id="take_answers")
    def patch(self, request: HttpRequest, project: str, page: str) -> Response:
        form = read(TakeForm, request)
        if not form["take"] and not form["leave"]:
            raise serializers.ValidationError({"take": sentence("asking.choose_answers")})
        return Response(actions.take(self.access, page, form["revision"], form["take"], form["leave"], form["changed"]))


class OneSheetView(ProjectView):
    """The sheet of somebody who was asked."""

    needs = {"get": ASKING}

    @extend_schema(parameters=[FORM], responses=FILE, operation_id="asked_sheet")
    def get(self, request: HttpRequest, project: str, page: str, id: int, form: str) -> HttpResponse:
        row = Request.objects.filter(page=self.access.page(page), pk=id).select_related("page__project", "by").first()
        if row is None or form not in ("xlsx", "pdf"):
            raise Refused("not-found", sentence("asking.not_asked"), 404)
        name = f"{project} {row.page.code} {row.name}.{form}"
        return download(sheet.sheet_xlsx(row), name, XLSX) if form == "xlsx" else download(sheet.sheet_pdf(row), name, PDF)


class ReadSheetView(ProjectView):
    """A sheet that came back, dropped into the page."""

    parser_classes = (MultiPartParser,)
    needs = {"post": ASKING}

    @extend_schema(request={"multipart/form-data": SheetFile}, responses=ReadAnswer, operation_id="read_sheet")
    def post(self, request: HttpRequest, project: str, page: str) -> Response:
        here: Page = self.access.wet(page)
        name, content = _file(request)
        token, rows = sheet.rows_of_sheet(name, content)
        found = sheet.open_request(token)
        if found.page_id != here.pk:
            raise Refused("entry-refused", sentence("asking.other_page"), 422, field="file")
        return Response(sheet.read_sheet(found, rows, self.access.view(page)))


class InboxView(ProjectView):
    """The sheets that lie in the inbox, read into the trays of their pages."""

    needs = {"post": ASKING}

    @extend_schema(request=None, responses=serializer_for(InboxOut), operation_id="read_inbox")
    def post(self, request: HttpRequest, project: str, page: str) -> Response:
        self.access.wet(page)
        return Response(InboxOut(read_inbox(settings.INBOX)))


class LookAheadView(ProjectView):
    """What the next weeks bring, for people on site."""

    @extend_schema(parameters=[FORM, LookQuery], responses=FILE, operation_id="look_ahead")
    def get(self, request: HttpRequest, project: str, page: str, form: str) -> HttpResponse:
        asked, v = query(LookQuery, request), self.access.view(page)
        if form not in ("xlsx", "pdf"):
            raise Refused("not-found", sentence("asking.no_such_file"), 404)
        name = f"{project} {v.page.code} look-ahead.{form}"
        if form == "xlsx":
            return download(lookahead.look_ahead_xlsx(v, **asked), name, XLSX)
        return download(lookahead.look_ahead_pdf(v, **asked), name, PDF)


class MyWorkView(RoleView):
    """What one is asked for oneself, and answering it."""

    @extend_schema(responses=serializer_for(selectors.MyWorkOut), operation_id="my_work")
    def get(self, request: HttpRequest) -> Response:
        return Response(selectors.my_work(person_of(request)))

    @extend_schema(request=AnswersForm, responses=serializer_for(KeptAnswer)(many=True), operation_id="answer")
    def post(self, request: HttpRequest) -> Response:
        form = AnswersForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(actions.answer_mine(person_of(request), form.validated_data["answers"]))


class TokenSheetView(APIView):
    """The sheet that a token opens, until its page closes: nobody signs in for it."""

    authentication_classes = ()
    permission_classes = (AllowAny,)
    parser_classes = (MultiPartParser,)

    @extend_schema(responses={(200, XLSX): OpenApiTypes.BINARY}, operation_id="sheet_by_token")
    def get(self, request: HttpRequest, token: str) -> HttpResponse:
        row = sheet.open_request(token)
        return download(sheet.sheet_xlsx(row), f"{row.page.project.code} {row.page.code} {row.name}.xlsx", XLSX)

    @extend_schema(request={"multipart/form-data": SheetFile}, responses=ReadAnswer, operation_id="sheet_back_by_token")
    def post(self, request: HttpRequest, token: str) -> Response:
        row = sheet.open_request(token)
        return Response(sheet.read_back(*_file(request), row))
