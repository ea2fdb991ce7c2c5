"""Serialisers made from the dataclasses that selectors give, so that the OpenAPI document says what is sent."""

from typing import Any

from rest_framework_dataclasses.serializers import DataclassSerializer


def serializer_for(kind: type) -> type[DataclassSerializer[Any]]:
    """A serialiser class that describes a dataclass; answers themselves go through `plain`."""
    meta = type("Meta", (), {"dataclass": kind})
    return type(f"{kind.__name__}Serializer", (DataclassSerializer,), {"Meta": meta})
