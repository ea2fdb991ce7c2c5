"""Buffers over HTTP: the chain, the promise and its fever chart at a page; approving, and how buffers are judged."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.buffers import actions, selectors, shapes
from server.shared.forms import Revision, read
from server.shared.schema import serializer_for
from server.shared.words import sentence

PromisedOut = serializer_for(actions.Promised)


class ChoiceForm(Revision):
    """How buffers are sized and judged; lines in per cent as typed, at the beginning and when all is done. What is not named stays."""

    size = serializers.ChoiceField(choices=("root", "half"), required=False)
    watch_from = serializers.CharField(max_length=40, required=False, allow_blank=True)
    watch_to = serializers.CharField(max_length=40, required=False, allow_blank=True)
    act_from = serializers.CharField(max_length=40, required=False, allow_blank=True)
    act_to = serializers.CharField(max_length=40, required=False, allow_blank=True)


class BuffersView(ProjectView):
    """The buffers of a page."""

    needs = {"put": (Role.ANALYST, sentence("buffers.choose"))}

    @extend_schema(responses=serializer_for(shapes.BuffersOut), operation_id="buffers")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.buffers_out(self.access.view(page)))

    @extend_schema(request=ChoiceForm, responses=PromisedOut, operation_id="choose_buffers")
    def put(self, request: Request, project: str, page: str) -> Response:
        form = dict(read(ChoiceForm, request))
        return Response(actions.choose(self.access, form.pop("revision"), form))


class UntieForm(Revision):
    """A hand-over by who gives, who takes, and of what."""

    giver = serializers.CharField(max_length=100)
    taker = serializers.CharField(max_length=100)
    resource = serializers.CharField(max_length=100)


class UntieView(ProjectView):
    """Take a hand-over of the promise away, from the open page on."""

    needs = {"post": (Role.ANALYST, sentence("plan.change_plan"))}

    @extend_schema(request=UntieForm, responses=PromisedOut, operation_id="untie")
    def post(self, request: Request, project: str, page: str) -> Response:
        return Response(actions.untie(self.access, page, **read(UntieForm, request)))


class PromiseView(ProjectView):
    """Approve the chain and buffers of the open page as the promise."""

    needs = {"post": (Role.APPROVER, sentence("buffers.approve"))}

    @extend_schema(request=Revision, responses=PromisedOut, operation_id="promise")
    def post(self, request: Request, project: str, page: str) -> Response:
        return Response(actions.promise(self.access, page, read(Revision, request)["revision"]))
