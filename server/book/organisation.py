"""What the organisation keeps for all its projects: lists of words, resources that they draw on, kinds of projects with own fields."""

from collections.abc import Iterable
from typing import Any

from django.db import models

from dryledger.book.plan import Book
from dryledger.book.shared import SharedResource
from dryledger.exchange.book_json import book_from
from server.shared.words import sentence

Doc = dict[str, Any]
START = "2027-01-04T08:00"


class Choice(models.Model):
    """A word of a list that the organisation keeps, such as the life-cycle states of a project."""

    list = models.CharField(max_length=30)
    word = models.CharField(max_length=100)
    order = models.IntegerField(default=0)

    class Meta:
        app_label = "book"
        ordering = ["order", "id"]
        constraints = [models.UniqueConstraint("list", "word", name="choice_word")]


class Shared(models.Model):
    """A resource of the organisation: the resource and its calendar as a book writes them, and the currency of its rates.

    `revision` counts its changes, so that nobody writes over what they have not seen.
    """

    code = models.CharField(max_length=100, unique=True)
    resource = models.JSONField()
    calendar = models.JSONField()
    currency = models.CharField(max_length=10)
    revision = models.IntegerField(default=1)

    class Meta:
        app_label = "book"
        ordering = ["code"]


class Kind(models.Model):
    """A kind of project by its name: the own fields that a project of it and its activities have, as the register of fields writes them."""

    name = models.CharField(max_length=100, unique=True)
    fields = models.JSONField(default=list)
    revision = models.IntegerField(default=1)

    class Meta:
        app_label = "book"
        ordering = ["name"]


class Setting(models.Model):
    """A choice of the organisation that holds in all its projects, by its name; absent: no."""

    name = models.CharField(max_length=40, unique=True)
    on = models.BooleanField(default=False)

    class Meta:
        app_label = "book"


DECIDED_APART = "decided_apart"
"""Whether a change of the budget is decided by another person than who raised it or wrote to it."""


def is_set(name: str) -> bool:
    """Whether the organisation has chosen it."""
    return Setting.objects.filter(name=name, on=True).exists()


def five_day_week() -> Doc:
    """The calendar that a project, or a resource of the organisation, begins with."""
    week = {day: ["08:00-12:00", "13:00-17:00"] for day in ("mon", "tue", "wed", "thu", "fri")}
    return {"code": "five-day", "name": sentence("projects.five_day_week"), "week": week}


def alone(calendar: Doc, currency: str = "EUR", **lists: list[Doc]) -> Book:
    """A book of nothing but rows that the organisation keeps, so that they are read as in a project. Raises BookInvalid."""
    project = {"code": "organisation", "name": "Organisation", "calendar": calendar["code"], "currency": currency, "start": START}
    return book_from({"format": "dry-ledger-book", "version": 1, "project": project, "calendars": [calendar], **lists})


def book_of(row: Shared) -> Book:
    """A resource of the organisation and its calendar as the only things in a book. Raises BookInvalid."""
    return alone(row.calendar, row.currency, resources=[{"code": row.code, **row.resource, "calendar": row.calendar["code"]}])


def shared_resource(row: Shared) -> SharedResource:
    """A resource of the organisation as the core knows it."""
    book = book_of(row)
    x = book.resources[0]
    return SharedResource(x.code, x.name, book.calendars[0], x.kind, x.units, x.role, x.skills, row.currency, x.rates)


def kinds_by_name(names: Iterable[str]) -> dict[str, list[Doc]]:
    """The own fields that kinds of projects give, by the name of each kind, as far as there are."""
    return {row.name: row.fields for row in Kind.objects.filter(name__in=set(names))}


def shared_by_code(codes: Iterable[str]) -> list[SharedResource]:
    """The organisation's resources by their codes, as far as there are."""
    return [shared_resource(row) for row in Shared.objects.filter(code__in=set(codes))]
