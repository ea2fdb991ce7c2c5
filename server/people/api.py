"""People and access over HTTP."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Default, Person, Role
from server.accounts.roles import person_of
from server.book.access import AdministratorView, ProjectView
from server.book.lookup import no_project
from server.book.models import Project
from server.people import actions, selectors
from server.people.from_csv import people_csv
from server.people.shapes import AccessOut, AuditOut, CsvOut, GivenOut, MembersOut, PeopleOut
from server.shared.files import CSV, csv_text, download
from server.shared.forms import query
from server.shared.problems import NotAllowed
from server.shared.schema import serializer_for
from server.shared.words import sentence


class NewPerson(serializers.Serializer[object]):
    """Somebody new."""

    username = serializers.CharField(allow_blank=True, max_length=150)
    full_name = serializers.CharField(allow_blank=True, max_length=200)
    role = serializers.ChoiceField(Default.choices, default=Default.READER)
    administrator = serializers.BooleanField(default=False)


class PersonChange(serializers.Serializer[object]):
    """What of a person is another now."""

    full_name = serializers.CharField(allow_blank=True, max_length=200, required=False)
    role = serializers.ChoiceField(Default.choices, required=False)
    administrator = serializers.BooleanField(required=False)
    active = serializers.BooleanField(required=False)


class PersonDoes(serializers.Serializer[object]):
    """What is done with somebody's way in: a password for the next sign-in, choose another, sign out everywhere, lift a lock-out."""

    do = serializers.ChoiceField(("reset", "expire", "sign-out", "lift"))


class CsvForm(serializers.Serializer[object]):
    """A list of people as CSV; shown only, unless it is to be applied."""

    text = serializers.CharField(max_length=1_000_000)
    apply = serializers.BooleanField(default=False)


class MembersForm(serializers.Serializer[object]):
    """Whether a project is for members only, and roles by sign-in name; null: what the person is in the organisation."""

    members_only = serializers.BooleanField()
    roles = serializers.DictField(child=serializers.ChoiceField(Role.choices, allow_null=True), default=dict)


class AuditQuery(serializers.Serializer[object]):
    """Which lines of the trail."""

    kind = serializers.CharField(default="", allow_blank=True, max_length=20)
    text = serializers.CharField(default="", allow_blank=True, max_length=100)
    before = serializers.IntegerField(default=None, allow_null=True, max_value=2**31)


class PeopleView(AdministratorView):
    """Everybody; somebody new."""

    @extend_schema(responses=serializer_for(PeopleOut), operation_id="people")
    def get(self, request: Request) -> Response:
        return Response(selectors.people())

    @extend_schema(request=NewPerson, responses=serializer_for(GivenOut), operation_id="add_person")
    def post(self, request: Request) -> Response:
        form = NewPerson(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(actions.add(person_of(request), **form.validated_data))


class PersonView(AdministratorView):
    """One person."""

    @extend_schema(request=PersonChange, responses=serializer_for(GivenOut), operation_id="change_person")
    def patch(self, request: Request, id: int) -> Response:
        form = PersonChange(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(actions.change(person_of(request), id, form.validated_data))

    @extend_schema(request=PersonDoes, responses=serializer_for(GivenOut), operation_id="person_way_in")
    def post(self, request: Request, id: int) -> Response:
        form = PersonDoes(data=request.data)
        form.is_valid(raise_exception=True)
        by, do = person_of(request), form.validated_data["do"]
        if do == "sign-out":
            return Response(actions.end_sessions(by, id, request.session.session_key or ""))
        does = {"reset": actions.reset_password, "expire": actions.expire_password, "lift": actions.lift_lock}[do]
        return Response(does(by, id))


class PeopleCsvView(AdministratorView):
    """People from a list."""

    @extend_schema(request=CsvForm, responses=serializer_for(CsvOut), operation_id="people_csv")
    def post(self, request: Request) -> Response:
        form = CsvForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(people_csv(person_of(request), **form.validated_data))


class ApartForm(serializers.Serializer[object]):
    """Whether nobody decides a change that they raised or wrote to."""

    decided_apart = serializers.BooleanField()


class AccessView(AdministratorView):
    """Every project, to give access to."""

    @extend_schema(responses=serializer_for(AccessOut), operation_id="access")
    def get(self, request: Request) -> Response:
        return Response(selectors.all_access())

    @extend_schema(request=ApartForm, responses=serializer_for(AccessOut), operation_id="change_access")
    def patch(self, request: Request) -> Response:
        form = ApartForm(data=request.data)
        form.is_valid(raise_exception=True)
        actions.decide_apart(person_of(request), form.validated_data["decided_apart"])
        return Response(selectors.all_access())


class ProjectAccessView(AdministratorView):
    """Who may do what at a project, for administrators who need not see it otherwise."""

    @extend_schema(responses=serializer_for(MembersOut), operation_id="access_of_project")
    def get(self, request: Request, code: str) -> Response:
        return Response(selectors.members(self._project(code), True))

    @extend_schema(request=MembersForm, responses=serializer_for(MembersOut), operation_id="give_access")
    def put(self, request: Request, code: str) -> Response:
        project = self._project(code)
        _give(person_of(request), project, request)
        return Response(selectors.members(self._project(code), True))

    def _project(self, code: str) -> Project:
        found = Project.objects.filter(code=code).first()
        if found is None:
            raise no_project(code)
        return found


def _give(by: Person, project: Project, request: Request) -> None:
    form = MembersForm(data=request.data)
    form.is_valid(raise_exception=True)
    actions.give_access(by, project, form.validated_data["members_only"], form.validated_data["roles"])


class MembersView(ProjectView):
    """Who may do what at a project, for those who see it; its approvers say so."""

    @extend_schema(responses=serializer_for(MembersOut), operation_id="members")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.members_of(self.access, self._may()))

    @extend_schema(request=MembersForm, responses=serializer_for(MembersOut), operation_id="keep_members")
    def put(self, request: Request, project: str) -> Response:
        if not self._may():
            raise NotAllowed(sentence("people.access_takes"))
        _give(self.access.person, self.access.project, request)
        return Response(selectors.members(Project.objects.get(pk=self.access.project.pk), self._may()))

    def _may(self) -> bool:
        return self.access.may(Role.APPROVER) or self.access.person.administrator


class AuditView(AdministratorView):
    """The audit trail."""

    @extend_schema(parameters=[AuditQuery], responses=serializer_for(AuditOut), operation_id="audit")
    def get(self, request: Request) -> Response:
        return Response(selectors.trail(**query(AuditQuery, request)))


class AuditFile(AdministratorView):
    """The whole trail as CSV."""

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="audit_file")
    def get(self, request: Request) -> HttpResponse:
        rows = [(str(x.number), x.at, x.who, x.kind, x.project, x.what) for x in selectors.trail(most=None).lines]
        return download(csv_text(sentence("people.audit_columns").split(", "), rows), "audit-trail.csv", CSV)
