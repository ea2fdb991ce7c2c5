"""Values that remember how they were written, so that what is written again is the same and can be read on another calendar."""

__all__ = ["Assumed", "Written"]


class Written(int):
    """Whole minutes with the text they were read from; an empty text where nothing was written.

    >>> day = Written(480, "1d")
    >>> day + 20, day.text, Written(480) == day
    (500, '1d', True)
    """

    text: str

    def __new__(cls, minutes: int, text: str = "") -> "Written":
        """So many minutes, read from a text."""
        out = super().__new__(cls, minutes)
        out.text = text
        return out


class Assumed(str):
    """A code that nobody wrote: the project's own stands in for it and may become another."""

    __slots__ = ()
