"""Writing across projects: an external activity is found where it is, follows its code, and no chain of links comes round."""

from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet

from dryledger.book.plan import External as ExternalRecord
from dryledger.calendar.calendar import to_text
from dryledger.network.graph import find_loop
from server.accounts.models import Person
from server.book.access import sees, visible
from server.book.lookup import last_page
from server.book.models import Activity, External, Link, Page, Project
from server.book.results import results_of
from server.shared.problems import Refused
from server.shared.words import sentence

Rows = list[dict[str, Any]]
LINKED = ("book.Link", "book.External")
NAMED = ("book.Activity", "book.Project")


def written(project: Project, rows: Rows, person: Person | None) -> None:
    """What rows that a step wrote mean for other projects. Raises Refused where links come round; it stands in the step's transaction."""
    if {r["model"] for r in rows} & set(LINKED):
        if person is not None:
            _made_by(person, rows)
        connect(project)
        no_loops(project, person)


def _made_by(person: Person, rows: Rows) -> None:
    """Whoever links from an external activity vouches for it with what they may see, unless somebody who sees it did already."""
    new = [r for r in rows if r["model"] in LINKED and r["before"] is None and r["after"]]
    linked = {r["pk"] if r["model"] == "book.External" else r["after"].get("external_id") for r in new}
    for x in External.objects.filter(pk__in=linked - {None}).select_related("by"):
        other = Project.objects.filter(code=x.code.partition("/")[0]).first()
        if other is not None and x.by_id != person.pk and sees(person, other) and (x.by is None or not sees(x.by, other)):
            External.objects.filter(pk=x.pk).update(by=person)


def connect(project: Project, everywhere: bool = False) -> None:
    """Find the activities that external ones of a project name, each among what whoever made it may see; or `everywhere`."""
    for x in _lost(External.objects.filter(project=project)).select_related("by"):
        code, _, activity = x.code.partition("/")
        other = Project.objects.filter(code=code).exclude(pk=project.pk).first()
        found = None
        if other is not None and (everywhere or sees(x.by, other)):
            found = Activity.objects.filter(project=other, code=activity).first()
        if found is not None:
            External.objects.filter(pk=x.pk).update(of=found.pk)


def last_seen(project: Project) -> list[tuple[Project, int, dict[str, Any]]]:
    """What activities of a project are now for those who wait for them and see it no more: who, by which row, and its cells."""
    waiting = External.objects.filter(of__in=Activity.objects.filter(project=project).values("pk")).select_related("by", "project")
    outsiders = [x for x in waiting if not sees(x.by, project)]
    if not outsiders or not Page.objects.filter(project=project).exists():
        return []
    own, r = dict(Activity.objects.filter(project=project).values_list("pk", "code")), results_of(project, last_page(project))
    out = []
    for x in outsiders:
        row, a = r.schedule.activities.get(own[x.of or 0]), r.book.activity_by_code.get(own[x.of or 0])
        if row is not None and a is not None:
            cells = {"name": a.name, "state": row.state, "start": to_text(row.start), "finish": to_text(row.finish)}
            out.append((x.project, x.pk, {**cells, "status": None if r.status is None else to_text(r.status)}))
    return out


def _lost(found: QuerySet[External]) -> QuerySet[External]:
    """Those of which the activity is not here, or not any more."""
    return found.exclude(of__in=Activity.objects.values("pk")) | found.filter(of__isnull=True)


def connect_all(project: Project, person: Person | None) -> None:
    """After a project came in: find what it waits for, and let others find in it what they wait for. Raises Refused for a loop."""
    if person is not None:
        External.objects.filter(project=project, by__isnull=True).update(by=person)
    connect(project, everywhere=person is None)
    for x in _lost(External.objects.filter(code__startswith=f"{project.code}/").exclude(project=project)):
        connect(x.project)
    no_loops(project, person)


def called_otherwise(project: Project, rows: Rows) -> list[tuple[Project, int, str]]:
    """Where rows gave a project or activities of it other codes: who waits for one under an old code, by which row, and the new one."""
    coded = [r for r in rows if r["model"] in NAMED and r["before"] and r["after"]]
    if all(r["before"].get("code") == r["after"].get("code") for r in coded):
        return []
    own = dict(Activity.objects.filter(project=project).values_list("pk", "code"))
    code = Project.objects.values_list("code", flat=True).get(pk=project.pk)
    waiting = External.objects.filter(of__in=own).select_related("by", "project")
    named = [(x, f"{code}/{own[x.of or 0]}") for x in waiting if sees(x.by, project)]
    return [(x.project, x.pk, now) for x, now in named if x.code != now]


def no_loops(project: Project, person: Person | None) -> None:
    """Raises Refused where a chain of links leads through other projects back to where it began."""
    group = _joined(project)
    if len(group) == 1:
        return
    links = Link.objects.filter(project__in=group).values_list("source_id", "external__of", "target_id")
    pairs = [(str(source or of), str(target)) for source, of, target in links if source or of]
    names = {
        str(pk): (other, code) for pk, other, code in Activity.objects.filter(project__in=group).values_list("pk", "project__code", "code")
    }
    loop = find_loop(list(names), [(a, b) for a, b in pairs if a in names])
    if loop:
        seen = None if person is None else set(visible(person).values_list("code", flat=True))
        told = [f"{names[x][0]}/{names[x][1]}" if seen is None or names[x][0] in seen else sentence("crossing.elsewhere") for x in loop]
        raise Refused("loop", sentence("crossing.loop", chain=" → ".join([*told, told[0]])), 409, field="after")


def _joined(project: Project) -> set[int]:
    """The projects that links join with this one, in either direction, however far."""
    found, new = set[int](), {project.pk}
    while new:
        found |= new
        of = External.objects.filter(project__in=new, of__isnull=False).values("of")
        before = set(Activity.objects.filter(pk__in=of).values_list("project_id", flat=True))
        own = Activity.objects.filter(project__in=new).values("pk")
        after = set(External.objects.filter(of__in=own).values_list("project_id", flat=True))
        new = (before | after) - found
    return found


@dataclass
class Waiting:
    """An activity of another project that waits for one of this."""

    project: str
    project_name: str
    code: str
    name: str


def waiting_for(person: Person, activity: int) -> list[Waiting]:
    """Who in other projects that a person sees waits for an activity."""
    links = (
        Link.objects.filter(external__of=activity, project__in=visible(person))
        .select_related("target", "project")
        .order_by("project", "id")
    )
    return [Waiting(k.project.code, k.project.name, k.target.code, k.target.name) for k in links.select_related("target", "project")]


def offered(project: Project, person: Person, texts: list[str]) -> list[ExternalRecord]:
    """The activities of other projects that typed links name (`PIER/A100`), among what the person sees, with their dates of now."""
    out = []
    parts = {part.strip() for text in texts for part in text.replace(",", ";").replace("\n", ";").split(";") if "/" in part}
    for part in sorted(parts):
        code, _, rest = part.partition("/")
        other = visible(person).filter(code__iexact=code.strip()).exclude(pk=project.pk).first()
        if other is None or not Page.objects.filter(project=other).exists():
            continue
        r = results_of(other, last_page(other))
        for a in r.book.activities:
            stated, rows = rest.strip().casefold(), r.schedule.activities
            if stated == a.code.casefold() or stated.startswith(f"{a.code.casefold()} "):
                x = rows[a.code]
                out.append(ExternalRecord(f"{other.code}/{a.code}", a.name, x.start, x.finish, x.state, r.status))
    return out
