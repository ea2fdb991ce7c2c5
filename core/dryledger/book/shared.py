"""Resources that the organisation keeps and several projects draw on: what of them is the organisation's, and what a project's own.

A project that draws on one has a resource of its own with the organisation's code under `shared`. Name, kind, role and skills are the
organisation's there, the rates too unless the project keeps its own; how many units the project may use, and on which calendar it books
them, it says itself. The book stays whole by itself: what is the organisation's is written into it.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.plan import Rate, Resource
from dryledger.calendar.calendar import Calendar

__all__ = ["SharedResource", "drawn", "taken_over"]

OF_ORGANISATION = ("name", "kind", "role", "skills")


@dataclass(frozen=True)
class SharedResource:
    """A resource as the organisation keeps it; `units` is how many there are for all projects, rates are in its currency."""

    code: str
    name: str
    calendar: Calendar
    kind: str = "labour"
    units: Decimal = Decimal(1)
    role: bool = False
    skills: tuple[str, ...] = ()
    currency: str = ""
    rates: tuple[Rate, ...] = ()


def taken_over(kept: SharedResource, own: Resource, currency: str) -> dict[str, Any]:
    """What of a project's resource becomes another by drawing on the organisation's, by attribute; `currency` is the project's.

    Rates are taken over where the project has none of its own and reckons in the currency that they are in.

    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 7)
    >>> kept = SharedResource("ELE", "Electricians", five, currency="EUR")
    >>> taken_over(kept, Resource("E1", "Sparks", shared="ELE"), "EUR")
    {'name': 'Electricians'}
    >>> taken_over(kept, Resource("E1", "Electricians"), "JPY")
    {'shared': 'ELE', 'own_rates': True}
    """
    wanted: dict[str, Any] = {"shared": kept.code} | {key: getattr(kept, key) for key in OF_ORGANISATION}
    if kept.currency != currency:
        wanted["own_rates"] = True
    elif not own.own_rates:
        wanted["rates"] = kept.rates
    return {key: value for key, value in wanted.items() if getattr(own, key) != value}


def drawn(resource: Resource, key: str) -> bool:
    """Whether an attribute of a project's resource is the organisation's.

    >>> one = Resource("E1", "Sparks", shared="ELE", own_rates=True)
    >>> drawn(one, "name"), drawn(one, "rates"), drawn(one, "units"), drawn(Resource("E1", "Sparks"), "name")
    (True, False, False, False)
    """
    return resource.shared is not None and (key in OF_ORGANISATION or (key == "rates" and not resource.own_rates))
