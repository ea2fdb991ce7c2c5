"""Forms that several rooms take, and reading one from a request."""

from typing import Any

from rest_framework import serializers
from rest_framework.request import Request


class Revision(serializers.Serializer[object]):
    """The revision that the writer saw."""

    revision = serializers.IntegerField()


def read(form: type[serializers.Serializer[Any]], request: Request) -> dict[str, Any]:
    """What a request says in a form. Raises ValidationError beside what is wrong."""
    given = form(data=request.data)
    given.is_valid(raise_exception=True)
    found: dict[str, Any] = given.validated_data
    return found


def query(form: type[serializers.Serializer[Any]], request: Request) -> dict[str, Any]:
    """What a request asks behind its `?`, in a form. Raises ValidationError at what is wrong."""
    asked = form(data=request.query_params)
    asked.is_valid(raise_exception=True)
    found: dict[str, Any] = asked.validated_data
    return found
