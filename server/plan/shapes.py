"""What each verb of a change takes, for the OpenAPI document; what is in it is judged by the core, in the user's words."""

from typing import Any

from drf_spectacular.utils import PolymorphicProxySerializer, extend_schema_field
from rest_framework import serializers
from rest_framework_dataclasses.serializers import DataclassSerializer

from server.plan import details

_TREE = {"after": "text?", "parent": "text?", "first": "yes?"}
SHAPES: dict[str, dict[str, str]] = {
    "set": {"row": "text", "cells": "cells", "was": "cells?"},
    "add": {
        "list": "text?",
        "row": "text?",
        "cells": "cells?",
        **_TREE,
        "from": "text?",
        "to": "text?",
        "activity": "text?",
        "resource": "text?",
        "as": "text?",
    },
    "remove": {"rows": "texts"},
    "delete": {"row": "text"},
    "place": {"rows": "texts", **_TREE},
    "indent": {"rows": "texts"},
    "outdent": {"rows": "texts"},
    "outline": {"lines": "lines", **_TREE},
    "chain": {"rows": "texts"},
    "link": {"row": "text?", "from": "text?", "to": "text?", "type": "text?", "cells": "cells?"},
    "unlink": {"from": "text", "to": "text", "type": "text?"},
    "assign": {"resource": "text", "rows": "texts?", "activity": "text?", "cells": "cells?"},
    "unassign": {"resource": "text", "activity": "text"},
    "cost": {"activity": "text", "name": "text", "cells": "cells?"},
    "uncost": {"activity": "text", "name": "text"},
    "resource": {"row": "text", "cells": "cells"},
    "project": {"cells": "cells", "row": "text?"},
    "draw": {"shared": "text", "row": "text?"},
    "leave": {"row": "text"},
    "kind": {"kind": "text"},
    "replace": {"resource": "text", "by": "text"},
    "element": {"rows": "texts", "name": "text"},
    "estimate": {"name": "text"} | dict.fromkeys(("measure", "total", "percent", "top", "spread_to", "as"), "text?"),
    "apply": {"estimate": "text"},
    "backward": {"rows": "texts?"},
    "copy": {"from": "text", "rows": "texts", "parent": "text?"},
}
"""By the word in `do`; a question mark: it may be left out."""


class OutlineLine(serializers.Serializer[object]):
    """A line of an outline: how deep it lies, and its cells."""

    level = serializers.IntegerField()
    cells = serializers.DictField(child=serializers.CharField())


def _field(kind: str) -> serializers.Field[Any, Any, Any, Any]:
    needed, word = not kind.endswith("?"), kind.rstrip("?")
    if word == "texts":
        return serializers.ListField(child=serializers.CharField(), required=needed)
    if word == "cells":
        return serializers.DictField(required=needed)
    if word == "lines":
        return OutlineLine(many=True, required=needed)
    if word == "yes":
        return serializers.BooleanField(required=needed)
    return serializers.CharField(required=needed, allow_null=not needed)


def _serializer(word: str, shape: dict[str, str]) -> type[serializers.Serializer[object]]:
    fields: dict[str, object] = {"do": serializers.ChoiceField([word])}
    fields |= {name: _field(kind) for name, kind in shape.items()}
    return type(f"{word.capitalize()}Verb", (serializers.Serializer,), fields)


@extend_schema_field(
    PolymorphicProxySerializer(
        component_name="Verb",
        serializers={word: _serializer(word, shape) for word, shape in SHAPES.items()},
        resource_type_field_name="do",
        many=True,
    )
)
class VerbsField(serializers.ListField):
    """Verbs, each known by the word in `do`."""

    child = serializers.DictField()


class Condition(serializers.Serializer[object]):
    """One condition of a filter: a column, and what is typed of it."""

    key = serializers.CharField()
    text = serializers.CharField(allow_blank=True)


class Lens(serializers.Serializer[object]):
    """How the sheet is filtered, grouped and sorted."""

    find = serializers.CharField(allow_blank=True)
    show = serializers.CharField()
    group = serializers.CharField(allow_blank=True)
    sort = serializers.CharField(allow_blank=True)
    where = Condition(many=True, required=False)


class ShownColumn(serializers.Serializer[object]):
    """A column and how wide it is drawn."""

    key = serializers.CharField()
    width = serializers.FloatField(required=False)


class View(serializers.Serializer[object]):
    """A named view of the plan sheet."""

    name = serializers.CharField()
    columns = ShownColumn(many=True)
    lens = Lens()


@extend_schema_field(View(many=True))
class ViewsField(serializers.ListField):
    """Named views, kept as they are sent."""

    child = serializers.DictField()


class PlanSerializer(DataclassSerializer[details.PlanOut]):
    """The plan sheet."""

    views = ViewsField()

    class Meta:
        dataclass = details.PlanOut
