"""Rows that others choose from, as several rooms send them."""

from dataclasses import dataclass


@dataclass
class Named:
    """A row that others choose from."""

    id: str
    code: str
    name: str
    kind: str = ""
    role: bool = False
