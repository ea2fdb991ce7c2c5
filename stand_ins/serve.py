"""A small source on this machine alone: answers one file of rows, as a timesheet system or a ledger would.

python stand_ins/serve.py stand_ins/timesheets.csv 8751
"""

import sys
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

TYPES = {".csv": "text/csv; charset=utf-8", ".json": "application/json"}


def source(file: Path, port: int) -> ThreadingHTTPServer:
    """What serves the file; it is read anew each time, so that a change in it is a change at the source."""

    class Answer(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            if self.path.split("?")[0] != f"/{file.name}":
                self.send_error(404)
                return
            body = file.read_bytes()
            self.send_response(200)
            self.send_header("Content-Type", TYPES[file.suffix])
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, format: str, *args: object) -> None:
            pass

    return ThreadingHTTPServer(("127.0.0.1", port), Answer)


if __name__ == "__main__":
    source(Path(sys.argv[1]), int(sys.argv[2])).serve_forever()
