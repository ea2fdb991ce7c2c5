"""Public holidays from a holiday library, as special days of a calendar."""

from dataclasses import dataclass, field

from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class Holiday:
    """A public holiday."""

    date: str
    name: str


@dataclass
class HolidaysOut:
    """The holidays of a year."""

    country: str
    year: int
    days: list[Holiday] = field(default_factory=list)


def holidays_of(country: str, year: int) -> HolidaysOut:
    """The public holidays of a country in a year. Raises Refused where the library knows neither."""
    import holidays as holiday_library  # read when somebody asks for holidays

    try:
        found = holiday_library.country_holidays(country.upper(), years=year)
    except NotImplementedError:
        raise Refused("bad-request", sentence("holidays.no_holidays_known", value=country[:40]), 400, field="country") from None
    days = [Holiday(d.isoformat(), name) for d, name in sorted(found.items()) if d.year == year]
    return HolidaysOut(country.upper(), year, days)
