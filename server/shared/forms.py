"""Forms that several rooms take."""

from rest_framework import serializers


class Revision(serializers.Serializer[object]):
    """The revision that the writer saw."""

    revision = serializers.IntegerField()
