"""How a verb calls a row and its cells, and what it remembers of a row: a change that was made for another state is refused."""

from typing import Any

from dryledger.book.lists import LISTS, PROJECT
from dryledger.changes.draft import Doc, Draft
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["called", "fields_in_words", "remembered"]

WORDS = {"begin": "start", "end": "finish", "after": "links", "people": "resources", "direct_cost": "direct cost"}


def called(record: Any) -> str:
    """The name of a row as a sentence says it; its code where it has none.

    >>> from dryledger.book.plan import WbsElement
    >>> called(WbsElement("1", "Yard")), called(None)
    ('Yard', 'a row')
    """
    return str(getattr(record, "name", "") or getattr(record, "code", "") or "a row")


def fields_in_words(cells: Doc) -> str:
    """The cells of a row in words, one after the other.

    >>> fields_in_words({"begin": None, "fields.berth_no": 1})
    'start, berth no'
    """
    return ", ".join(WORDS.get(f, f.removeprefix("fields.").replace("rate.", "rate ").replace("_", " ")) for f in cells)


def remembered(draft: Draft, verb: Doc, list_name: str, key: int | None, stated: str = "") -> None:
    """Refuses a change that remembers (`was`) another value than there is now; `key` is None where there is no row at all."""
    was = verb.get("was")
    if not isinstance(was, dict) or not was:
        return
    if key is None:
        if any(v is not None for v in was.values()):
            raise ChangeRefused("moved-on", sentence("verbs.gone_now", row=stated))
        return
    of = PROJECT if list_name == "project" else LISTS[list_name]
    record = draft.project if list_name == "project" else draft.record(list_name, key)
    now = row_document(of, record)
    then = {k: v for k, v in (now | was).items() if v is not None}
    if list_name == "project":
        different = [k for k in was if k in of.by_key and then.get(k) != now.get(k)]
    else:
        old = draft.read(list_name, then)
        different = [k for k in was if k in of.by_key and getattr(old, of.by_key[k].field) != getattr(record, of.by_key[k].field)]
    if different:
        raise ChangeRefused(
            "moved-on", sentence("verbs.another_now", row=stated or called(record), fields=fields_in_words(dict.fromkeys(different)))
        )
