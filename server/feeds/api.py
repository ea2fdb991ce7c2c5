"""Feeds over HTTP: the list, one feed, fetching, its tray, putting rows right, posting them."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.feeds import actions, tray
from server.shared.forms import Revision, read
from server.shared.schema import serializer_for

FEEDS = (Role.ANALYST, "work with feeds")


class FeedForm(serializers.Serializer[object]):
    """A feed: its name, its kind (timesheet, cost), the address that it is fetched from, and its columns by our names."""

    name = serializers.CharField(required=False, max_length=100)
    kind = serializers.CharField(required=False, max_length=20)
    address = serializers.CharField(required=False, allow_blank=True, max_length=500)
    columns = serializers.DictField(child=serializers.CharField(allow_blank=True, max_length=200), required=False)


class FetchForm(serializers.Serializer[object]):
    """What a dropped file says; absent: the feed's address is asked."""

    content = serializers.CharField(required=False, allow_null=True, allow_blank=True, trim_whitespace=False)


class RightForm(serializers.Serializer[object]):
    """Rows of the tray, and what they mean: a person, an activity, that they are taken late, or that they are discarded."""

    rows = serializers.ListField(child=serializers.CharField(max_length=40), allow_empty=False, max_length=50_000)
    person = serializers.CharField(required=False, max_length=300)
    activity = serializers.CharField(required=False, max_length=300)
    late = serializers.BooleanField(required=False)
    discard = serializers.BooleanField(required=False)


FeedsAnswer = serializer_for(actions.FeedsOut)
TrayAnswer = serializer_for(tray.TrayOut)


class FeedsView(ProjectView):
    """The feeds of a project."""

    needs = {"get": FEEDS, "post": FEEDS}

    @extend_schema(responses=FeedsAnswer, operation_id="feeds")
    def get(self, request: Request, project: str) -> Response:
        return Response(actions.feeds_of(self.access))

    @extend_schema(request=FeedForm, responses=FeedsAnswer, operation_id="add_feed")
    def post(self, request: Request, project: str) -> Response:
        return Response(actions.set_feed(self.access, None, read(FeedForm, request)))


class FeedView(ProjectView):
    """One feed and its tray."""

    needs = dict.fromkeys(("get", "patch", "delete", "put"), FEEDS)

    @extend_schema(responses=TrayAnswer, operation_id="feed_tray")
    def get(self, request: Request, project: str, feed: int) -> Response:
        return Response(actions.tray(self.access, feed))

    @extend_schema(request=FeedForm, responses=FeedsAnswer, operation_id="change_feed")
    def patch(self, request: Request, project: str, feed: int) -> Response:
        return Response(actions.set_feed(self.access, feed, read(FeedForm, request)))

    @extend_schema(responses={200: FeedsAnswer}, operation_id="delete_feed")
    def delete(self, request: Request, project: str, feed: int) -> Response:
        return Response(actions.delete_feed(self.access, feed))


class FetchView(ProjectView):
    """Fetching a feed: from its address, or what a dropped file says."""

    needs = {"post": FEEDS}

    @extend_schema(request=FetchForm, responses=serializer_for(actions.FetchedOut), operation_id="fetch_feed")
    def post(self, request: Request, project: str, feed: int) -> Response:
        return Response(actions.fetch_feed(self.access, feed, read(FetchForm, request).get("content")))


class RightView(ProjectView):
    """Putting rows of the tray right."""

    needs = {"patch": FEEDS}

    @extend_schema(request=RightForm, responses=TrayAnswer, operation_id="put_rows_right")
    def patch(self, request: Request, project: str, feed: int) -> Response:
        form = read(RightForm, request)
        return Response(actions.fix_rows(self.access, feed, form["rows"], form))


class PostTrayView(ProjectView):
    """Posting the tray of a feed on the open page."""

    needs = {"post": FEEDS}

    @extend_schema(request=Revision, responses=serializer_for(actions.FeedEffect), operation_id="post_tray")
    def post(self, request: Request, project: str, page: str, feed: int) -> Response:
        return Response(actions.post_tray(self.access, page, feed, read(Revision, request)["revision"]))
