"""The distribution list of a project, and sending an edition to people on it through the outbox on this machine.

Mail goes to the outbox stand-in alone: a mail server on 127.0.0.1 that keeps what it takes in a folder. Nothing leaves the machine.
"""

import smtplib
from collections.abc import Sequence
from email.message import EmailMessage
from email.utils import formataddr, make_msgid

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction

from dryledger.marks.marks import mark_word
from server.accounts.audit import note
from server.book.access import Access
from server.report.models import Delivery, Edition, Recipient
from server.report.shapes import IssuedOut, RecipientOut, SendingOut
from server.shared.files import one_line
from server.shared.problems import Refused
from server.shared.saying import format_date
from server.shared.words import sentence

MOST, LONGEST = 200, 200
SECONDS = 10


def sending_out(access: Access) -> SendingOut:
    """The distribution list and the editions of a project."""
    people = [RecipientOut(p.pk, p.name, p.email) for p in Recipient.objects.filter(project=access.project)]
    found = Edition.objects.filter(page__project=access.project).defer("html", "pdf", "xlsx", "content")
    kept = set(found.filter(content__isnull=False).values_list("pk", flat=True))
    editions = [
        IssuedOut(e.page.code, e.number, e.status, e.issued_by.full_name, e.issued_at.isoformat(timespec="minutes"), e.pk in kept)
        for e in found.select_related("page", "issued_by").order_by("-issued_at", "-pk")
    ]
    return SendingOut(people, editions, settings.OUTBOX_VIEW)


def add_recipient(access: Access, name: str, email: str) -> Recipient:
    """Put somebody on the distribution list. Raises Refused beside the field that is wrong."""
    name, email = one_line(name), email.strip()
    if not name:
        raise Refused("entry-refused", sentence("report.name_needed"), 422, field="name")
    try:
        validate_email(email)
        email.encode("ascii")
    except (ValidationError, UnicodeEncodeError):
        raise Refused("entry-refused", sentence("report.address_wrong", email=email[:80]), 422, field="email") from None
    own = Recipient.objects.filter(project=access.project)
    if own.count() >= MOST:
        raise Refused("too-many", sentence("report.list_full", most=MOST), 409)
    if own.filter(email__iexact=email).exists():
        raise Refused("entry-refused", sentence("report.on_the_list", email=email), 422, field="email")
    try:
        with transaction.atomic():
            return Recipient.objects.create(project=access.project, name=name[:LONGEST], email=email)
    except IntegrityError:
        raise Refused("entry-refused", sentence("report.on_the_list", email=email), 422, field="email") from None


def drop_recipient(access: Access, pk: int) -> None:
    """Take somebody off the list. What was sent stays noted."""
    if not Recipient.objects.filter(project=access.project, pk=pk).delete()[0]:
        raise Refused("not-found", sentence("report.recipient_gone"), 404)


def send(access: Access, edition: Edition, to: Sequence[int], again: bool) -> list[Delivery]:
    """Send an edition to people of the list, each a message of their own with the PDF attached.

    Raises Refused where nobody is chosen, somebody is gone from the list, somebody has it already and `again` is not said, or the
    outbox does not answer. What the mail server says of each person is noted.
    """
    people = list(Recipient.objects.filter(project=access.project, pk__in=to))
    if not to:
        raise Refused("entry-refused", sentence("report.nobody_chosen"), 422, field="to")
    if len(people) != len(set(to)):
        raise Refused("not-found", sentence("report.recipient_gone"), 404, field="to")
    had = {d.email for d in Delivery.objects.filter(edition=edition, state="delivered")}
    twice = [p.name for p in people if p.email in had]
    if twice and not again:
        raise Refused("sent-already", sentence("report.sent_already", number=edition.number, names=", ".join(twice)), 409, field="to")
    try:
        server = smtplib.SMTP(settings.OUTBOX_HOST, settings.OUTBOX_PORT, local_hostname="localhost", timeout=SECONDS)
    except (OSError, smtplib.SMTPException):
        raise Refused("outbox-away", sentence("report.outbox_away"), 503) from None
    try:
        sent = [_sent(server, access, edition, p) for p in people]
    finally:
        server.close()
    told = sentence("audit.sent", number=edition.number, page=edition.page.code, count=len(sent))
    note("issue", told, access.person, access.project.code)
    return sent


def _sent(server: smtplib.SMTP, access: Access, edition: Edition, p: Recipient) -> Delivery:
    """Hand one message over, and note what became of it."""
    message = _message(access, edition, p)
    try:
        server.send_message(message)
        state, detail = "delivered", sentence("report.delivered")
    except smtplib.SMTPRecipientsRefused as no:
        code, answer = no.recipients[p.email]
        state, detail = "bounced", f"{code} {answer.decode(errors='replace')}"
    except smtplib.SMTPResponseException as no:
        text = no.smtp_error
        state, detail = "bounced", f"{no.smtp_code} {text.decode(errors='replace') if isinstance(text, bytes) else text}"
    except (OSError, smtplib.SMTPException):
        state, detail = "bounced", sentence("report.outbox_stopped")
    return Delivery.objects.create(edition=edition, name=p.name, email=p.email, state=state, detail=detail[:1000], sent_by=access.person)


def _message(access: Access, edition: Edition, p: Recipient) -> EmailMessage:
    page, name = edition.page, one_line(access.project.name)
    date, status, by = format_date(page.status), mark_word(edition.status), access.person.full_name
    reason = str((edition.content or {}).get("reason") or "")
    subject = sentence("report.mail_subject", project=name, number=page.code, date=date, status=status)
    body = sentence(
        "report.mail_body",
        name=p.name,
        number=page.code,
        project=name,
        date=date,
        edition=edition.number,
        status=status,
        reason=reason,
        by=by,
    )
    out = EmailMessage()
    out["Subject"] = subject
    out["From"] = formataddr((by, settings.OUTBOX_FROM))
    out["To"] = formataddr((p.name, p.email))
    out["Message-ID"] = make_msgid(domain="dry-ledger.invalid")
    out.set_content(body)
    file = f"{access.project.code}-{page.code}-{edition.number}.pdf"
    out.add_attachment(bytes(edition.pdf), maintype="application", subtype="pdf", filename=file)
    return out
