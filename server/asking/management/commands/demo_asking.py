"""The demo's open page has been asked: one has answered from the telephone, one by a sheet, one of whom contradicts what was posted."""

from django.core.management.base import BaseCommand

from dryledger.posting.asking import asked
from server.accounts.models import Person, Role
from server.asking.actions import ask_people
from server.asking.keeping import keep
from server.asking.models import Request
from server.book.access import access
from server.book.membership import Member
from server.book.models import Page, Project
from server.posting.sheet import before
from server.shared.problems import Refused

CONTRIBUTOR = ("ruan", "Ruan Teale")
ASKED = ("Ruan Teale", "Mirela Oakden", "Petra Lindqvale", "Joss Amberley")
PAGE = {
    "A330": {"percent": "90", "remaining": "1", "note": "The last two penetrations wait for the frames."},
    "A340": {"carry_to": "2027-03-15", "note": "Scaffold went to the wheelhouse. Back on Monday."},
    "A435": {"percent": "70", "remaining": "3"},
}
SHEET = {"A460": {"percent": "55", "remaining": "4"}, "A510": {"percent": "60", "remaining": "3"}}


class Command(BaseCommand):
    """Ask on the demo's open page once."""

    help = "Ask for progress in the demo."
    requires_system_checks: list[str] = []

    def handle(self, *args: object, **options: object) -> None:
        project = Project.objects.filter(code="FERRY").first()
        page = Page.objects.filter(project=project, state="wet").last()
        if project is None or page is None or Request.objects.filter(page__project=project).exists():
            return
        username, full_name = CONTRIBUTOR
        ruan, made = Person.objects.get_or_create(username=username, defaults={"full_name": full_name, "role": "none", "demo": True})
        if made:
            ruan.set_unusable_password()
            ruan.save()
        Member.objects.get_or_create(project=project, person=ruan, defaults={"role": Role.CONTRIBUTOR})
        at = access(Person.objects.filter(role=Role.ANALYST).order_by("pk")[0], project.code)
        v = at.view(page.code)
        known = asked(v.results, before(v))
        ask_people(at, page.code, [{"name": n} for n in ASKED if n in known], 1, f"{page.status[:10]} 12:00")
        for name, via, stated in (("Ruan Teale", "page", PAGE), ("Mirela Oakden", "sheet", SHEET)):
            request = Request.objects.get(page=page, name=name)
            for code, cells in stated.items():
                kept = keep(request, v, f"demo.{code}", code, cells, {}, via)
                if not kept.kept:
                    raise Refused("demo", f"{code}: {kept.why}")
