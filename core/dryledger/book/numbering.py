"""Codes given by the program: the next in the manner of those that are there.

>>> next_code(["A100", "A110", "B7"], "A110"), next_code([], None), next_element(["1", "2", "2.1"], "2")
('A120', 'A100', '2.2')
"""

import re
from collections.abc import Collection

__all__ = ["field_code", "next_code", "next_element", "resource_code"]

_NUMBERED = re.compile(r"(.*?)(\d{1,12})")


def next_code(taken: Collection[str], like: str | None, step: int = 10, first: str = "A100") -> str:
    """The next activity code: the same letters as `like`, the next free number in steps of ten."""
    found = _NUMBERED.fullmatch(like) if like else None
    prefix, width = (found[1], len(found[2])) if found else (_NUMBERED.fullmatch(first)[1], len(first) - 1)  # type: ignore[index]
    numbers = [int(m[2]) for m in map(_NUMBERED.fullmatch, taken) if m and m[1] == prefix]
    last = max(numbers, default=100 - step)
    number = (last // step + 1) * step
    while (code := f"{prefix}{number:0{width}}") in taken:
        number += step
    return code


def next_element(taken: Collection[str], parent: str | None) -> str:
    """The next WBS code below a parent: its code, a point and the next number."""
    prefix = "" if parent is None else f"{parent}."
    number = 1 + max((int(c[len(prefix) :]) for c in taken if c.startswith(prefix) and c[len(prefix) :].isdecimal()), default=0)
    while f"{prefix}{number}" in taken:
        number += 1
    return f"{prefix}{number}"


def resource_code(name: str, taken: Collection[str]) -> str:
    """A short code from a resource's name, with a number where it is taken.

    >>> resource_code("Fitters", ["FIT"])
    'FIT2'
    """
    letters = re.sub(r"[^A-Z0-9]", "", name.upper())[:3] or "R"
    code, number = letters, 2
    while code in taken:
        code, number = f"{letters}{number}", number + 1
    return code


def field_code(name: str, taken: Collection[str]) -> str:
    """The code of an own field of a name: one that a formula can call.

    >>> field_code("Hot work", ()), field_code("Hot work", ["hot_work"]), field_code("2nd yard", ())
    ('hot_work', 'hot_work_2', 'f_2nd_yard')
    """
    base = "".join(ch if ch.isalnum() else "_" for ch in name.lower()).strip("_") or "field"
    base = base if base[0].isalpha() else f"f_{base}"
    return next(c for c in (base, *(f"{base}_{n}" for n in range(2, 10_000))) if c not in taken)
