"""What a verb must hold before it is done: which of its words are texts, rows of which lists, cells or lines."""

from typing import Any

from server.shared.problems import Refused

ANY = "awlscrkgebp"
SHAPES: dict[str, dict[str, str]] = {
    "set": {"row": ANY, "cells": "cells"},
    "add": {
        "list": "text",
        "cells": "cells",
        "after": "tree",
        "parent": "tree",
        "from": "a",
        "to": "a",
        "activity": "a",
        "resource": "r",
        "as": "text",
    },
    "link": {"row": "l", "cells": "cells"},
    "remove": {"rows": ANY},
    "place": {"rows": "tree", "after": "tree", "parent": "tree"},
    "indent": {"rows": "tree"},
    "outdent": {"rows": "tree"},
    "element": {"rows": "tree"},
    "outline": {"lines": "lines", "after": "tree", "parent": "tree"},
    "chain": {"rows": "aw"},
    "assign": {"resource": "r", "rows": "aw", "cells": "cells"},
    "replace": {"resource": "r", "by": "r"},
    "estimate": {"as": "text"},
    "apply": {"estimate": "e"},
}
"""For each verb and word: "text", "cells", "lines", or the letters of the rows it may name; "tree" is a row of the tree."""
MAY_LACK = ("cells", "after", "parent", "as")
LONGEST = 15


def check_shape(draft: Any, verb: dict[str, Any]) -> None:
    """Refuses a verb of which a word is not what it should be."""
    for key, shape in SHAPES[str(verb["do"])].items():
        value = verb.get(key)
        if value is None and (key not in verb or key in MAY_LACK):
            continue
        if shape == "cells":
            right = isinstance(value, dict)
        elif shape == "lines":
            right = isinstance(value, list) and bool(value) and all(map(_line, value))
        elif shape == "text":
            right = isinstance(value, str)
        elif key == "rows":
            right = isinstance(value, list) and bool(value) and all(_names(draft, x, shape) for x in value)
        else:
            right = _names(draft, value, shape)
        if not right:
            raise Refused("bad-request", f"The change “{verb['do']}” can't be done with what stands in “{key}”.", 400)


def _line(value: Any) -> bool:
    return isinstance(value, dict) and isinstance(value.get("level") or 0, int) and isinstance(value.get("cells") or {}, dict)


def _names(draft: Any, value: Any, shape: str) -> bool:
    """Whether a value is the name of a row of one of the lists; one of the tree must be there."""
    if not isinstance(value, str):
        return False
    name = draft.name(value)
    key = name[1:]
    if name[:1] not in ("aw" if shape == "tree" else shape) or not key.isdecimal() or len(key) > LONGEST:
        return False
    if shape == "tree" and name not in draft.outline.parent:
        raise Refused("not-found", "That row is not there any more. Somebody else may have taken it out.", 409)
    return True
