"""How calendars and resources look, for the OpenAPI document: as the book writes them, with who uses them."""

from typing import Any

from rest_framework import serializers
from rest_framework_dataclasses.serializers import DataclassSerializer

from server.resources import selectors


def _shape(title: str, **fields: serializers.Field[Any, Any, Any, Any]) -> type[serializers.Serializer[object]]:
    """A serialiser by name; for fields whose names Python keeps for itself."""
    return type(title, (serializers.Serializer,), {key.rstrip("_"): field for key, field in fields.items()})


SpecialDays = _shape(
    "SpecialDays",
    from_=serializers.CharField(),
    to=serializers.CharField(),
    shifts=serializers.ListField(child=serializers.CharField(), required=False),
    name=serializers.CharField(required=False),
)
Rate = _shape(
    "Rate",
    from_=serializers.CharField(),
    amount=serializers.CharField(),
    per=serializers.CharField(),
    overtime=serializers.CharField(required=False),
)


OtherUnits = _shape(
    "OtherUnits",
    from_=serializers.CharField(),
    to=serializers.CharField(),
    name=serializers.CharField(required=False),
    units=serializers.FloatField(required=False),
)


class CalendarOut(serializers.Serializer[object]):
    """A calendar: shifts by the day of the week, special days, and who uses it."""

    id = serializers.CharField()
    code = serializers.CharField()
    name = serializers.CharField()
    week = serializers.DictField(child=serializers.ListField(child=serializers.CharField()))
    exceptions = SpecialDays(many=True, required=False)
    hours_per_day = serializers.FloatField(required=False)
    hours_per_week = serializers.FloatField(required=False)
    hours_per_month = serializers.FloatField(required=False)
    users = serializers.ListField(child=serializers.CharField())
    used = serializers.IntegerField()


class ResourceOut(serializers.Serializer[object]):
    """A resource with its rates, those in force, on how many activities it is, and by how many hours it is over-allocated."""

    id = serializers.CharField()
    code = serializers.CharField()
    name = serializers.CharField()
    kind = serializers.CharField(required=False)
    units = serializers.FloatField(required=False)
    calendar = serializers.CharField(required=False)
    role = serializers.BooleanField(required=False)
    rates = Rate(many=True, required=False)
    skills = serializers.ListField(child=serializers.CharField(), required=False)
    actuals = serializers.CharField(required=False)
    person = serializers.CharField(required=False)
    unit = serializers.CharField(required=False)
    supplier = serializers.CharField(required=False)
    roles = serializers.ListField(child=serializers.CharField(), required=False)
    exceptions = OtherUnits(many=True, required=False)
    own = serializers.DictField(child=serializers.JSONField())
    in_force = serializers.DictField(child=serializers.CharField())
    short_hours = serializers.FloatField()
    activities = serializers.IntegerField()
    shared = serializers.CharField(required=False)
    own_rates = serializers.BooleanField(required=False)
    kept = serializers.ChoiceField(("own", "same", "other", "gone"))


class SharedResourceOut(DataclassSerializer[selectors.SharedOut]):
    """A resource of the organisation."""

    rates = Rate(many=True)
    week = serializers.DictField(child=serializers.ListField(child=serializers.CharField()))

    class Meta:
        dataclass = selectors.SharedOut


class SharedListSerializer(serializers.Serializer[object]):
    """The organisation's resources."""

    resources = SharedResourceOut(many=True)


class ListsSerializer(DataclassSerializer[selectors.ListsOut]):
    """Calendars and resources."""

    calendars = CalendarOut(many=True)
    resources = ResourceOut(many=True)

    class Meta:
        dataclass = selectors.ListsOut
