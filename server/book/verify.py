"""Are the dry pages as they were closed? Tampering is told apart from figures that are reckoned differently since."""

import json
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

from dryledger.compute import CALCULATION, compute
from dryledger.errors import DryLedgerError
from dryledger.exchange.book_json import read_book
from dryledger.results import results_document
from server.book.cache import LruCache
from server.book.documents import codes_of, page_document, plan_document
from server.book.models import Page, Project, Seal
from server.book.rows import clean
from server.book.sealing import SEALED, canonical, digest_of, hashed, page_content, sha
from server.shared.words import sentence

Doc = dict[str, Any]
Codes = dict[str, dict[int, str]]
Renames = dict[str, dict[str, str]]
"""For each list the code that a row has now, by the one that it had."""
REFERS = {"activity": "activities", "resource": "resources", "wbs": "wbs"}
MOST_TOLD = 5


@dataclass
class Verified:
    """What was found: tampering, and what only comes out differently under the calculation of today."""

    dry: int = 0
    wrong: list[str] = field(default_factory=list)
    differently: list[str] = field(default_factory=list)


def verify(project: Project) -> Verified:
    """Recompute every seal of a project and the figures behind it; what is damaged is told and the rest is still gone through."""
    project.refresh_from_db()
    out = Verified()
    codes = codes_of(project)
    now = _plan_now(project, codes)
    previous = ""
    found: dict[str, Page] = {}
    for page in Page.objects.filter(project=project, state="dry"):
        out.dry += 1
        found[str(page.uid)] = page
        name = sentence("verify.page", code=page.code, code_2=project.code)
        if page.previous != previous:
            out.wrong.append(sentence("verify.does_follow_page_before", name=name))
        previous = page.digest
        try:
            _page(project, page, name, codes, now, out)
        except (zlib.error, ValueError, KeyError, TypeError, AttributeError, IndexError, DryLedgerError):
            out.wrong.append(sentence("verify.seal_damaged_cant_read", name=name))
    _chain(project, found, out)
    return out


def _plan_now(project: Project, codes: Codes) -> Doc:
    try:
        return plan_document(project, codes)
    except (KeyError, TypeError, AttributeError):
        return {}


def _page(project: Project, page: Page, name: str, codes: Codes, now: Doc, out: Verified) -> None:
    if not page.inputs or not page.results:
        out.wrong.append(sentence("verify.seal_empty", name=name))
        return
    inputs, results = zlib.decompress(page.inputs), zlib.decompress(page.results)
    if page.digest != digest_of(page, hashed(inputs, results)):
        out.wrong.append(sentence("verify.what_stored_does_match", name=name))
        return
    then: Doc = json.loads(inputs)
    renames = _renames(page, then["periods"][-1], codes, name, out)
    if _renamed(then["periods"][-1], renames) != _as_sealed(page_document(page, codes)):
        out.wrong.append(sentence("verify.rows_were_changed_after", name=name))
    for b in changed_baselines(then, now):
        out.wrong.append(sentence("verify.baseline_what_when_page", b=b, code=project.code, code_2=page.code))
    if reckoned(inputs, page.code) != sha(results):
        again = results_document(compute(read_book(inputs), page.code), SEALED)
        different = list(_different(json.loads(results), json.loads(json.dumps(again))))
        told = (
            f"{name}: {', '.join(different[:MOST_TOLD])}{f' and {len(different) - MOST_TOLD} more' if len(different) > MOST_TOLD else ''}"
        )
        if page.calculation == CALCULATION:
            out.wrong.append(sentence("verify.come_out_differently_under", told=told, calculation=CALCULATION))
        elif different:
            out.differently.append(
                sentence("verify.reckoned_differently_since_closed", told=told, calculation=page.calculation, calculation_2=CALCULATION)
            )


_reckoned = LruCache(10_000, lambda _: 1)


def reckoned(inputs: bytes, code: str) -> str:
    """The digest of what sealed inputs come to under the calculation of today; kept, since the same inputs always come to the same."""
    found: str = _reckoned.get((sha(inputs), code), lambda: sha(canonical(results_document(compute(read_book(inputs), code), SEALED))))
    return found


def _as_sealed(document: Doc) -> Any:
    return json.loads(canonical(document))


def _renames(page: Page, then: Doc, codes: Codes, name: str, out: Verified) -> Renames:
    """What the rows that the page names are called now: by who they were at closing, else by their place on the page."""
    if page.keys:
        return {part: {code: codes[part].get(pk, "") for code, pk in known.items()} for part, known in page.keys.items()}
    found: Renames = {part: {} for part in REFERS.values()}
    here = page_document(page, codes)
    for part in ("statements", "hours", "costs"):
        for was, is_now in zip(then.get(part, []), here[part], strict=False):
            for key, kind in REFERS.items():
                old, new = was.get(key), is_now.get(key)
                if old is not None and new is not None and found[kind].setdefault(old, new) != new:
                    out.wrong.append(sentence("verify.rows_stand_other_rows", name=name))
    return found


def _renamed(then: Doc, renames: Renames) -> Doc:
    out = dict(then)
    for part in ("statements", "hours", "costs"):
        rows = [{k: renames[REFERS[k]].get(v, v) if k in REFERS and v is not None else v for k, v in x.items()} for x in then.get(part, [])]
        out[part] = rows
    return out


def changed_baselines(then: Doc, now: Doc) -> Iterator[str]:
    """Baselines that are gone or other than they were; codes may be others, and what says nothing may stand or not."""
    here = {b["code"]: b for b in now.get("baselines", [])}
    for b in then.get("baselines", []):
        found = here.get(b["code"])
        if found is None or clean(_without_codes(b)) != clean(_without_codes(_as_sealed(found))):
            yield b["code"]


def _without_codes(b: Doc) -> Doc:
    """A baseline without the codes that follow a rename."""
    rows = []
    for a in b.get("activities", []):
        bare = {k: v for k, v in a.items() if k not in ("code", "wbs")}
        if "value_method" in bare:
            bare["value_method"] = {k: v for k, v in bare["value_method"].items() if k != "base"}
        if "assignments" in bare:
            bare["assignments"] = [{k: v for k, v in x.items() if k != "resource"} for x in bare["assignments"]]
        rows.append(bare)
    return {k: v for k, v in b.items() if k != "activities"} | {"activities": rows}


def _different(was: Any, now: Any, path: str = "") -> Iterator[str]:
    """The figures that differ between two results, as paths; what came to the format since is none."""
    if isinstance(was, dict) and isinstance(now, dict):
        for key in was:
            yield from _different(was[key], now.get(key), f"{path}.{key}" if path else key)
    elif isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        for i, (a, b) in enumerate(zip(was, now, strict=True)):
            name = a.get("code", i) if isinstance(a, dict) else i
            yield from _different(a, b, f"{path}[{name}]")
    elif was != now:
        yield path


def _chain(project: Project, pages: dict[str, Page], out: Verified) -> None:
    """The chain of everything that was sealed, against what is there."""
    previous, number = "", 0
    closed: set[str] = set()
    seals = list(Seal.objects.filter(project=project))
    for s in seals:
        number += 1
        if s.number != number or s.digest != sha(
            previous.encode(), str(s.number).encode(), s.kind.encode(), s.subject.encode(), s.content.encode()
        ):
            out.wrong.append(sentence("verify.chain_seals_broken_number", code=project.code, number=number))
            return
        previous = s.digest
        if s.kind == "page":
            closed.add(s.subject)
            page = pages.get(s.subject)
            if page is None:
                out.wrong.append(sentence("verify.page_closed_seal_gone", code=project.code, number=number))
            elif page_content(page) != s.content:
                out.wrong.append(sentence("verify.page_who_closed_when", code=page.code, code_2=project.code))
    if (previous, number) != (project.sealed, project.sealed_count):
        out.wrong.append(sentence("verify.end_chain_seals_cut", code=project.code))
    for uid in pages.keys() - closed:
        out.wrong.append(sentence("verify.page_dry_nobody_closed", code=pages[uid].code, code_2=project.code))
    for check in _MORE:
        out.wrong += check(project, seals)


_MORE: list[Callable[[Project, list[Seal]], list[str]]] = []
"""Checks that rooms above add for what they seal: each takes the project and its seals, and gives sentences."""


def also_verify(check: Callable[[Project, list[Seal]], list[str]]) -> None:
    """A room's own check of what it has sealed."""
    _MORE.append(check)
