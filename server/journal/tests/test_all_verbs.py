"""Every verb through the database: what is written and read again is what the core makes alone, and undo gives the book before."""

import os
import random
from typing import Any

from core.tests.random_books import random_book
from dryledger.book.lists import LISTS
from dryledger.changes.apply import apply, run
from dryledger.changes.draft import Draft
from dryledger.changes.verbs import VERBS
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import book_document
from server.accounts.models import Person
from server.book.access import access
from server.book.cache import LruCache
from server.book.documents import book_document as rows_document
from server.book.loading import load_document
from server.book.models import Project
from server.book.sealing import canonical
from server.book.workspace import workspace_of
from server.journal.writing import undo_or_redo, write
from server.tests.base import LedgerTest

Doc = dict[str, Any]
BOOKS = int(os.environ.get("DRY_BOOKS", "30"))
BESIDE = {"draw", "leave", "kind", "outline", "chain", "element", "indent", "outdent", "place", "replace", "estimate", "apply"}
BESIDE |= {"backward", "copy"}
"""Verbs of the plan sheet, or of what the organisation keeps: these have tests of their own."""
LASTING = {"close", "open", "take_back"}
"""Verbs of which no step is undone."""


def some(rng: random.Random, doc: Doc) -> list[Doc]:
    """A verb of each kind, on rows of a random book; some can't be done."""
    a, b = (rng.choice(doc["activities"])["code"] for _ in range(2))
    r, wbs = rng.choice(doc["resources"])["code"], rng.choice([*(w["code"] for w in doc.get("wbs", [])), None])
    last = doc["periods"][-1]["status"] if doc.get("periods") else "2027-02-01T17:00"
    day = last[:10]
    return [
        {
            "do": "set",
            "row": a,
            "cells": {"duration": rng.choice(["3d", "1.5w", "90min"]), "name": "Set", "weight": rng.choice([0.1, 2.5])},
        },
        {"do": "add", "row": f"N{rng.randrange(9)}", "as": "n", "cells": {"name": "New", "duration": "2.5d", "wbs": wbs}},
        {"do": "set", "row": "n", "cells": {"deadline": "2027-03-01T17:00"}},
        {"do": "delete", "row": rng.choice([a, "n"])},
        {"do": "remove", "rows": [rng.choice([a, "n", r, b])]},
        {"do": "add", "list": "links", "from": a, "to": b},
        {"do": "link", "from": a, "to": b, "type": rng.choice(["FS", "SS", "FF"]), "cells": {"lag": rng.choice(["2d", "-1d", "0.5d"])}},
        {"do": "unlink", "from": a, "to": b},
        {"do": "assign", "activity": a, "resource": r, "cells": {"units": rng.choice([0.5, 0.1, 2]), "work": rng.choice(["7.5h", None])}},
        {"do": "unassign", "activity": a, "resource": r},
        {"do": "cost", "activity": a, "name": "Paint", "cells": {"amount": rng.choice(["10", "0.10", "1200.5"])}},
        {"do": "uncost", "activity": a, "name": "Paint"},
        {"do": "resource", "row": r, "cells": {"units": rng.choice([1, 2.5, 0.3])}},
        {"do": "project", "cells": {"treatment": rng.choice(["retained", "override", "recorded"]), "limits": {"lag": 3.5}}},
        {"do": "post", "row": a, "cells": {"remaining": "3.5d"}},
        {"do": "state", "row": a, "cells": {"actual_start": "2027-01-04T08:00", "percent": rng.choice([12.5, 33.3, 7])}},
        {"do": "state", "row": b, "cells": {"note": "seen", "units_done": 0.1, "remaining": "4h"}},
        {"do": "state", "row": a, "cells": {"actual_start": None, "percent": None, "note": None, "remaining": None, "actual_finish": None}},
        {"do": "hours", "activity": a, "resource": r, "cells": {"worked": "7.5h", "to_go": rng.choice(["0h", "2d", None])}},
        {"do": "hours", "activity": a, "resource": r, "cells": {"worked": None, "overtime": "1h"}},
        {"do": "pay", "cells": {"activity": a, "date": day, "amount": rng.choice(["12.5", "1000"]), "source": "invoice", "ref": "R1"}},
        {"do": "pay", "entry": 0, "cells": {"amount": "99.90"}},
        {"do": "pay", "entry": 0},
        {"do": "page", "cells": {"note": "A page"}},
        {
            "do": "marks",
            "rows": [{"code": "M1", "scope": "project", "mark": "watch", "conditions": [{"figure": "spi", "is": "<", "value": 0.9}]}],
        },
        {"do": "lines", "rows": [{"at": "2027-01-29T17:00", "name": "first"}, {"at": "2027-02-05T17:00"}]},
        {"do": "layout", "rows": [{"sections": ["overall", "money"], "levels": 2}]},
        {"do": "answers", "rows": []},
        {"do": "order", "row": "O7", "cells": {"supplier": "Yard", "lines": rng.choice([None, [{"for": f"{a}/{r}", "amount": "12.50"}]])}},
        {"do": "order", "row": rng.choice(["O0", "O7"])},
        {"do": "reserve", "row": "V1", "cells": {"name": "Ice", "amount": rng.choice(["0.10", "1200"]), "held": "outside"}},
        {
            "do": "change",
            "row": "CH9",
            "cells": {"name": "More", "state": "raised", "days": 1.5, "lines": [{"activity": b, "amount": "7"}]},
        },
        {
            "do": "mark",
            "row": "M9",
            "cells": {"scope": "project", "mark": "act", "conditions": [{"figure": "cv", "is": "<", "value": "0"}]},
        },
        {
            "do": "untie",
            **next(
                ({k: t[k] for k in ("from", "to", "resource")} for p in doc.get("promises", []) for t in p.get("ties", [])),
                {"from": a, "to": b, "resource": r},
            ),
        },
        {"do": "close"},
        {"do": "open", "status": rng.choice([None, "2029-01-05T17:00"])},
        {"do": "take_back"},
    ]


class AllVerbs(LedgerTest):
    pages = 1

    def test_every_verb_is_tried(self) -> None:
        kinds = {v["do"] for v in some(random.Random(1), random_book(1))}
        self.assertEqual(kinds | BESIDE, set(VERBS))

    def test_apply_rows_and_load_come_to_what_apply_does_alone_and_undo_takes_it_back(self) -> None:
        tried: dict[str, int] = {}
        for seed in range(BOOKS):
            document = random_book(seed)
            if document.get("externals"):
                continue
            try:
                book = book_from(document)
            except BookInvalid:
                continue
            load_document(document, f"V{seed}")
            project = Project.objects.get(code=f"V{seed}")
            came_in = canonical(rows_document(project))
            rng = random.Random(seed)
            at = access(Person.objects.get(username="lorcan"), project.code)
            book = workspace_of(project).book
            verbs: list[Doc] = []
            pool = [v for v in some(rng, rows_document(project)) if seed % 3 == 0 or v["do"] not in LASTING]
            for verb in rng.sample(pool, k=14):
                try:
                    apply(book, [*verbs, verb])
                except (ChangeRefused, BookInvalid):
                    continue
                verbs.append(verb)
                tried[verb["do"]] = tried.get(verb["do"], 0) + 1
            alone = apply(book, verbs).book
            w = workspace_of(project)
            write(at, at.project.revision, "plan", run(Draft(w.keyed, typed=False, by_name=False), verbs), w)
            with self.subTest(seed=seed, verbs=[v["do"] for v in verbs]):
                at = at.again()
                published = workspace_of(at.project).book
                LruCache.forget_all()
                at = at.again()
                loaded = workspace_of(at.project).book
                for name in ("project", *LISTS):
                    self.assertEqual(getattr(loaded, name), getattr(alone, name), name)
                    self.assertEqual(getattr(published, name), getattr(alone, name), name)
                self.assertEqual(canonical(book_document(loaded)), canonical(book_document(alone)))
                if at.project.revision > project.revision and not LASTING & {v["do"] for v in verbs}:
                    undo_or_redo(at, at.project.revision, True)
                    self.assertEqual(canonical(rows_document(Project.objects.get(pk=project.pk))), came_in)
        self.assertGreater(len(tried), 21)
