"""What was sealed before there was a chain of seals becomes its first links, and the journal names models as they are now."""

import hashlib

import rfc8785
from django.db import migrations

MOVED = {
    f"{app}.{name}": f"book.{name}"
    for app, names in {
        "plan": "Project Resource WbsElement Activity Link Assignment DirectCost RegisterEntry Estimate",
        "calendar": "Calendar",
        "baseline": "Baseline",
        "posting": "Page Statement HoursEntry CostEntry",
    }.items()
    for name in names.split()
}


def sha(*parts):
    h = hashlib.sha256()
    for part in parts:
        h.update(len(part).to_bytes(8, "big"))
        h.update(part)
    return h.hexdigest()


def rename_models(apps, schema_editor):
    for step in apps.get_model("journal", "Step").objects.all():
        step.changes = [c | {"model": MOVED.get(c["model"], c["model"])} for c in step.changes]
        step.role = "approver" if step.kind == "baseline" else "analyst"
        step.save(update_fields=["changes", "role"])


def seal_all(apps, schema_editor):
    Seal = apps.get_model("book", "Seal")
    for project in apps.get_model("book", "Project").objects.all():
        digest, number = "", 0

        def add(kind, subject, content):
            nonlocal digest, number
            number += 1
            digest = sha(digest.encode(), str(number).encode(), kind.encode(), subject.encode(), content.encode())
            Seal.objects.create(project=project, number=number, kind=kind, subject=subject, content=content, digest=digest)

        for page in apps.get_model("book", "Page").objects.filter(project=project, state="dry").order_by("order", "id"):
            at = None if page.closed_at is None else page.closed_at.isoformat()
            head = {"by": page.closed_by_id, "at": at, "mark": page.mark, "calculation": page.calculation, "keys": page.keys}
            add("page", str(page.uid), sha(page.code.encode(), page.digest.encode(), rfc8785.dumps(head)))
        for e in apps.get_model("report", "Edition").objects.filter(page__project=project).select_related("page").order_by("id"):
            head = {"number": e.number, "status": e.status, "by": e.issued_by_id, "at": e.issued_at.isoformat(), "digest": e.digest}
            add("edition", f"{e.page.uid}/{e.number}", sha(rfc8785.dumps(head)))
        for s in apps.get_model("journal", "Step").objects.filter(project=project).order_by("id"):
            keys = ("kind", "role", "label", "subject", "undoable")
            head = {"at": s.at.isoformat(), "by": s.by_id, **{k: getattr(s, k) for k in keys}}
            add("step", str(s.pk), sha(rfc8785.dumps(head), rfc8785.dumps(s.changes)))
            if s.undone:
                add("undo", str(s.pk), "")
        project.sealed, project.sealed_count = digest, number
        project.save(update_fields=["sealed", "sealed_count"])


class Migration(migrations.Migration):
    dependencies = [("journal", "0002_ground"), ("book", "0002_ground"), ("report", "0002_ground"), ("plan", "0005_ground")]

    operations = [
        migrations.RunPython(rename_models, migrations.RunPython.noop),
        migrations.RunPython(seal_all, migrations.RunPython.noop),
    ]
