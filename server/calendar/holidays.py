"""Public holidays from a holiday library, as special days of a calendar."""

from dataclasses import dataclass

from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class Holiday:
    """A public holiday."""

    date: str
    name: str


@dataclass
class Region:
    """A region of a country, by its code, and the holidays that it adds to the country's."""

    code: str
    adds: list[Holiday]


@dataclass
class HolidaysOut:
    """The holidays of a year."""

    country: str
    region: str
    year: int
    days: list[Holiday]
    regions: list[Region]
    """The regions of the country, each with the days that it has besides."""


def holidays_of(country: str, year: int, region: str = "") -> HolidaysOut:
    """The public holidays of a country, or of one of its regions, in a year. Raises Refused where the library knows neither."""
    import holidays as holiday_library  # read when somebody asks for holidays

    def days(subdivision: str | None) -> dict[str, str]:
        found = holiday_library.country_holidays(country.upper(), subdiv=subdivision, years=year)
        return {d.isoformat(): name for d, name in sorted(found.items()) if d.year == year}

    try:
        whole, mine = days(None), days(region or None)
    except NotImplementedError:
        field = "region" if region else "country"
        raise Refused("bad-request", sentence("holidays.no_holidays_known", value=(region or country)[:40]), 400, field=field) from None
    names = getattr(holiday_library.country_holidays(country.upper()), "subdivisions", ())
    regions = [Region(r, [Holiday(d, name) for d, name in days(r).items() if d not in whole]) for r in names]
    return HolidaysOut(country.upper(), region, year, [Holiday(d, name) for d, name in mine.items()], regions)
