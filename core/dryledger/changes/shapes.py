"""What a verb must hold before it is done: which of its words are texts, rows of which lists, cells or lines."""

from typing import Any

from dryledger.changes.draft import Draft
from dryledger.errors import ChangeRefused
from dryledger.words import sentence

__all__ = ["ANY", "SHAPES", "check_shape"]

ANY = "awlscrkgebdv"
"""The letters of the lists whose rows a person writes cells of, and takes out."""
SHAPES: dict[str, dict[str, str]] = {
    "set": {"row": ANY + "p", "cells": "cells"},
    "add": {
        "list": "text",
        "cells": "cells",
        "after": "aw",
        "parent": "aw",
        "from": "ax",
        "to": "a",
        "activity": "a",
        "resource": "r",
        "as": "text",
    },
    "link": {"row": "l", "from": "ax", "to": "a", "type": "text", "cells": "cells"},
    "unlink": {"from": "ax", "to": "a", "type": "text"},
    "remove": {"rows": ANY + "p"},
    "delete": {"row": "a"},
    "place": {"rows": "aw", "after": "aw", "parent": "aw"},
    "indent": {"rows": "aw"},
    "outdent": {"rows": "aw"},
    "element": {"rows": "aw"},
    "outline": {"lines": "lines", "after": "aw", "parent": "aw"},
    "chain": {"rows": "aw"},
    "assign": {"resource": "r", "rows": "aw", "activity": "a", "cells": "cells"},
    "unassign": {"resource": "r", "activity": "a"},
    "cost": {"activity": "a", "name": "text", "cells": "cells"},
    "uncost": {"activity": "a", "name": "text"},
    "resource": {"row": "r", "cells": "cells"},
    "project": {"cells": "cells"},
    "post": {"row": "a", "cells": "cells", "page": "text"},
    "order": {"row": "text", "cells": "cells"},
    "reserve": {"row": "text", "cells": "cells"},
    "change": {"row": "text", "cells": "cells"},
    "mark": {"row": "text", "cells": "cells"},
    "untie": {"from": "text", "to": "text", "resource": "text", "page": "text"},
    "state": {"row": "a", "cells": "cells", "page": "text"},
    "hours": {"activity": "a", "resource": "r", "cells": "cells", "page": "text"},
    "pay": {"cells": "cells", "page": "text"},
    "page": {"cells": "cells", "page": "text"},
    "close": {"page": "text"},
    "open": {"status": "text"},
    "take_back": {"page": "text"},
    "marks": {"rows": "documents"},
    "answers": {"rows": "documents"},
    "lines": {"rows": "documents"},
    "layout": {"rows": "documents"},
    "draw": {"shared": "text", "row": "r"},
    "leave": {"row": "r"},
    "kind": {"kind": "text"},
    "replace": {"resource": "r", "by": "r"},
    "estimate": {"as": "text", "spread_to": "text"},
    "apply": {"estimate": "e"},
    "backward": {"rows": "a"},
    "copy": {"from": "text", "rows": "texts", "parent": "w"},
}
"""For each verb and word: "text", "texts", "cells", "lines", "documents", or the letters of the rows it may name."""
MAY_LACK = ("after", "parent", "as", "type")


def check_shape(draft: Draft, verb: dict[str, Any]) -> None:
    """Refuses a verb of which a word is not what it should be."""
    for key, shape in SHAPES[str(verb["do"])].items():
        value = verb.get(key)
        if value is None and (key not in verb or key in MAY_LACK):
            continue
        if shape == "cells":
            right = isinstance(value, dict) and all(isinstance(k, str) for k in value)
        elif shape == "lines":
            right = isinstance(value, list) and bool(value) and all(map(_line, value))
        elif shape == "documents":
            right = isinstance(value, list) and all(isinstance(x, dict) for x in value)
        elif shape == "texts":
            right = isinstance(value, list) and bool(value) and all(isinstance(x, str) for x in value)
        elif shape == "text":
            right = isinstance(value, str)
        elif key == "rows":
            right = isinstance(value, list) and bool(value) and all(_names(draft, x, shape) for x in value)
        else:
            right = _names(draft, value, shape)
        if not right:
            raise ChangeRefused("bad-request", sentence("shapes.change_cant_done_what", do=verb["do"], value=key))


def _line(value: Any) -> bool:
    return isinstance(value, dict) and isinstance(value.get("level") or 0, int) and isinstance(value.get("cells") or {}, dict)


def _names(draft: Draft, value: Any, shape: str) -> bool:
    """Whether a value can be the name of a row of one of the lists."""
    if not isinstance(value, str):
        return False
    if not draft.by_name and value not in draft.named:
        return bool(value)
    name = draft.named.get(value, value)
    key = name[1:].removeprefix("-")
    return name[:1] in shape and key.isdecimal() and key.isascii() and len(key) <= 15
