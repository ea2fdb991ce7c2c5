"""Mail to people who are asked: what for, until when, with their sheet; through the outbox on this machine."""

import smtplib
from email.message import EmailMessage
from email.utils import formataddr, make_msgid

from django.conf import settings

from server.asking.models import Request
from server.asking.sheet import sheet_pdf, sheet_xlsx
from server.shared.files import XLSX, one_line
from server.shared.saying import format_date
from server.shared.words import sentence

SECONDS = 10


def send_out(request: Request, remind: bool) -> None:
    """Send a request, or a reminder, to who has an address; what the mail server says is noted with it."""
    if not request.email:
        return
    try:
        with smtplib.SMTP(settings.OUTBOX_HOST, settings.OUTBOX_PORT, local_hostname="localhost", timeout=SECONDS) as server:
            server.send_message(_message(request, remind))
        told = sentence("report.delivered")
    except smtplib.SMTPRecipientsRefused as no:
        code, answer = no.recipients[request.email]
        told = f"{code} {answer.decode(errors='replace')}"
    except (OSError, smtplib.SMTPException):
        told = sentence("asking.outbox_away")
    request.sent = told[:300]
    request.save(update_fields=["sent"])


def _message(request: Request, remind: bool) -> EmailMessage:
    page, project = request.page, request.page.project
    name, date, until = one_line(project.name), format_date(page.status), format_date(request.until or page.status)
    count = len(request.activities)
    by = request.by.full_name or request.by.username
    out = EmailMessage()
    out["Subject"] = sentence("asking.mail_reminder" if remind else "asking.mail_subject", project=name, date=date)
    out["From"] = formataddr((by, settings.OUTBOX_FROM))
    out["To"] = formataddr((request.name, request.email))
    out["Message-ID"] = make_msgid(domain="dry-ledger.invalid")
    out.set_content(sentence("asking.mail_body", name=request.name, count=count, project=name, date=date, until=until, by=by))
    main, sub = XLSX.split("/")
    file = f"{project.code} {page.code} {request.name}"
    out.add_attachment(sheet_xlsx(request), maintype=main, subtype=sub, filename=f"{file}.xlsx")
    out.add_attachment(sheet_pdf(request), maintype="application", subtype="pdf", filename=f"{file}.pdf")
    return out
