"""The outbox: a mail server on this machine alone that keeps what it takes in a folder, and a page to look at it.

python stand_ins/outbox.py FOLDER 8753 8754 [INBOX]

The first port takes mail (SMTP), the second shows it. Nothing is passed on to anybody. A mailbox whose name begins with “gone.”
is refused as one that is not there, so that a bounce can be seen. Of mail that is sent back to the application the workbooks are put
into the folder INBOX.
"""

import email
import email.policy
import html
import sys
import threading
import time
from email.message import EmailMessage
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from urllib.parse import unquote

from aiosmtpd.controller import Controller

HOST = "127.0.0.1"
OWN = "reports@dry-ledger.invalid"
"""The address that the application sends from."""
MOST_BYTES = 64 * 1024 * 1024
STYLE = (
    "body{font:14px/1.5 system-ui,sans-serif;margin:24px;color:#1B2333;background:#FAF8F2}h1{font:600 20px Georgia,serif}"
    "table{border-collapse:collapse;background:#FFFDF8}th,td{text-align:left;padding:6px 12px;border-bottom:1px solid #DDD6C6}"
)


class Kept:
    """The folder of messages: NUMBER-delivered.eml as they were taken, NUMBER-bounced.eml with the envelope of a refused one."""

    def __init__(self, folder: Path) -> None:
        self.folder, self._lock = folder, threading.Lock()
        folder.mkdir(parents=True, exist_ok=True)

    def keep(self, state: str, content: bytes) -> None:
        """Keep a message under the next number."""
        with self._lock:
            number = 1 + max((int(f.name.split("-")[0]) for f in self.folder.glob("*.eml")), default=0)
            (self.folder / f"{number:05}-{state}.eml").write_bytes(content)

    def all(self) -> list[tuple[str, str, EmailMessage]]:
        """Every message, the newest first: its name, its state and itself."""
        found = sorted(self.folder.glob("*.eml"), reverse=True)
        return [(f.stem, f.stem.partition("-")[2], read(f.read_bytes())) for f in found]


def read(content: bytes) -> EmailMessage:
    """A message from its bytes."""
    return email.message_from_bytes(content, _class=EmailMessage, policy=email.policy.default)


class Taking:
    """What the mail server does with a recipient and with a message."""

    def __init__(self, kept: Kept, inbox: Path | None = None) -> None:
        self.kept, self.inbox = kept, inbox

    async def handle_RCPT(self, server: Any, session: Any, envelope: Any, address: str, options: list[str]) -> str:
        if address.lower().startswith("gone."):
            answer = f"550 5.1.1 There is no mailbox {address}"
            note = EmailMessage()
            note["From"], note["To"], note["Subject"] = envelope.mail_from or "<>", address, "Refused"
            note.set_content(answer)
            self.kept.keep("bounced", bytes(note))
            return answer
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        self.kept.keep("delivered", envelope.content)
        if self.inbox is not None and any(to.lower() == OWN for to in envelope.rcpt_tos):
            self.inbox.mkdir(parents=True, exist_ok=True)
            for i, part in enumerate(attachments(read(envelope.content))):
                if str(part.get_filename()).lower().endswith(".xlsx"):
                    name = f"{time.time_ns()}-{i}"
                    (self.inbox / f"{name}.part").write_bytes(part.get_payload(decode=True) or b"")  # type: ignore[arg-type]
                    (self.inbox / f"{name}.part").rename(self.inbox / f"{name}.xlsx")
        return "250 Kept"


def attachments(message: EmailMessage) -> list[EmailMessage]:
    """The files that a message carries."""
    return [part for part in message.iter_attachments() if part.get_filename()]  # type: ignore[misc]


def listing(kept: Kept) -> str:
    """The page that shows every message."""
    rows = []
    for name, state, m in kept.all():
        files = ", ".join(
            f'<a href="/{name}/{i}">{html.escape(str(part.get_filename()))}</a>, {len(part.get_payload(decode=True) or b"") // 1024} kB'
            for i, part in enumerate(attachments(m))
        )
        cells = [str(m["To"] or ""), str(m["From"] or ""), str(m["Subject"] or ""), state]
        shown = "".join(f"<td>{html.escape(c)}</td>" for c in cells)
        rows.append(f'<tr>{shown}<td>{files or "–"}</td><td><a href="/{name}">message</a></td></tr>')
    table = "<table><thead><tr><th>To</th><th>From</th><th>Subject</th><th>State</th><th>Attached</th><td></td></tr></thead><tbody>"
    body = f"{table}{''.join(rows)}</tbody></table>" if rows else "<p>Nothing has been sent yet.</p>"
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Outbox</title><style>{STYLE}</style></head><body>'
        f"<h1>Outbox on this machine</h1><p>Mail ends here. Nothing is passed on.</p>{body}</body></html>"
    )


def viewer(kept: Kept, port: int) -> ThreadingHTTPServer:
    """The server that shows the folder."""

    class Answer(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            parts = [unquote(x) for x in self.path.split("?")[0].split("/") if x]
            known = {name: m for name, _, m in kept.all()} if parts else {}
            if not parts:
                self._send(listing(kept).encode(), "text/html; charset=utf-8")
            elif parts[0] not in known:
                self.send_error(404)
            elif len(parts) == 1:
                self._send(bytes(known[parts[0]]), "text/plain; charset=utf-8")
            else:
                files = attachments(known[parts[0]])
                if not parts[1].isdigit() or int(parts[1]) >= len(files):
                    self.send_error(404)
                    return
                file = files[int(parts[1])]
                self._send(file.get_payload(decode=True) or b"", file.get_content_type())  # type: ignore[arg-type]

        def _send(self, body: bytes, kind: str) -> None:
            self.send_response(200)
            for key, value in (("Content-Type", kind), ("Content-Length", str(len(body))), ("X-Content-Type-Options", "nosniff")):
                self.send_header(key, value)
            self.send_header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, format: str, *args: object) -> None:
            pass

    return ThreadingHTTPServer((HOST, port), Answer)


def taking(kept: Kept, port: int, inbox: Path | None = None) -> Controller:
    """The mail server, not started yet."""
    return Controller(Taking(kept, inbox), hostname=HOST, port=port, data_size_limit=MOST_BYTES)


def main(folder: Path, mail: int, view: int, inbox: Path | None = None) -> None:
    """Take mail and show it until stopped."""
    kept = Kept(folder)
    taking(kept, mail, inbox).start()
    viewer(kept, view).serve_forever()


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3]), Path(sys.argv[4]) if len(sys.argv) > 4 else None)
