"""Forms that several rooms take, and reading one from a request."""

from collections.abc import Sequence
from typing import Any

from rest_framework import serializers
from rest_framework.request import Request

from server.shared.words import sentence


class OneOf(serializers.ChoiceField):
    """One of some words; another is refused with those that there are."""

    def __init__(self, choices: Sequence[str], **more: Any) -> None:
        super().__init__(choices, error_messages={"invalid_choice": sentence("forms.one_of", names=", ".join(choices))}, **more)


class Listed(serializers.CharField):
    """Codes with commas between."""

    def __init__(self, **more: Any) -> None:
        super().__init__(**({"allow_blank": True, "max_length": 20_000} | more))

    def to_internal_value(self, data: Any) -> list[str]:  # type: ignore[override]  # what comes of the text
        return [x for x in super().to_internal_value(data).split(",") if x]


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
