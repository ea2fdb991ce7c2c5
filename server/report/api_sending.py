"""The distribution list and sending an edition, over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.report.content import edition_of, edition_out
from server.report.sending import add_recipient, drop_recipient, send, sending_out
from server.report.shapes import EditionOut, SendingOut
from server.shared.forms import read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class RecipientForm(serializers.Serializer[object]):
    """Somebody for the distribution list."""

    name = serializers.CharField(allow_blank=True, max_length=200)
    email = serializers.CharField(allow_blank=True, max_length=254)


class SendForm(serializers.Serializer[object]):
    """Who an edition is sent to, and whether again to those who have it."""

    to = serializers.ListField(child=serializers.IntegerField(), max_length=200)
    again = serializers.BooleanField(default=False)


SendingAnswer = serializer_for(SendingOut)


class RecipientsView(ProjectView):
    """The distribution list."""

    needs = {"post": (Role.ANALYST, sentence("report.keep_recipients"))}

    @extend_schema(responses=SendingAnswer, operation_id="distribution")
    def get(self, request: Request, project: str) -> Response:
        return Response(sending_out(self.access))

    @extend_schema(request=RecipientForm, responses=SendingAnswer, operation_id="add_recipient")
    def post(self, request: Request, project: str) -> Response:
        d = read(RecipientForm, request)
        add_recipient(self.access, d["name"], d["email"])
        return Response(sending_out(self.access))


class RecipientView(ProjectView):
    """One person of the distribution list."""

    needs = {"delete": (Role.ANALYST, sentence("report.keep_recipients"))}

    @extend_schema(responses={200: SendingAnswer}, operation_id="delete_recipient")
    def delete(self, request: Request, project: str, pk: int) -> Response:
        drop_recipient(self.access, pk)
        return Response(sending_out(self.access))


class SendView(ProjectView):
    """Send an edition to people of the list."""

    needs = {"post": (Role.APPROVER, sentence("report.send_report"))}

    @extend_schema(request=SendForm, responses=serializer_for(EditionOut), operation_id="send_edition")
    def post(self, request: Request, project: str, page: str, number: str) -> Response:
        d = read(SendForm, request)
        edition = edition_of(self.access, page, number)
        send(self.access, edition, d["to"], d["again"])
        return Response(edition_out(edition))
