"""The file of an archive: a zip whose every byte counts. Its list of contents has a digest for each, and its own is the comment.

Contents are stored as they are, in order and without a date, so that the same contents make the same file: a byte that is another
anywhere, in a content or around it, is seen.
"""

import hashlib
import io
import json
import zipfile
from collections.abc import Mapping

from server.shared.problems import Refused
from server.shared.words import sentence

LIST = "archive.json"
FORMAT = "dry-ledger-archive"
VERSION = 1
NEVER = (1980, 1, 1, 0, 0, 0)
MOST_BYTES = 256 * 1024 * 1024


def packed(contents: Mapping[str, bytes]) -> bytes:
    """The file of named contents."""
    digests = {name: hashlib.sha256(data).hexdigest() for name, data in contents.items()}
    told = json.dumps({"format": FORMAT, "version": VERSION, "sha256": digests}, indent=1, sort_keys=True).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as z:
        for name, data in {LIST: told, **dict(sorted(contents.items()))}.items():
            z.writestr(zipfile.ZipInfo(name, NEVER), data)
        z.comment = hashlib.sha256(told).hexdigest().encode()
    return out.getvalue()


def is_archive(content: bytes) -> bool:
    """Whether a file is meant to be an archive: a zip with the list of contents of one."""
    return content[:4] == b"PK\x03\x04" and content[30 : 30 + len(LIST)] == LIST.encode()


def unpacked(content: bytes) -> dict[str, bytes]:
    """The contents by name. Raises Refused where a byte is not as it was written."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as z:
            if sum(x.file_size for x in z.infolist()) > MOST_BYTES:
                raise Refused("too-large", sentence("archive.too_large"), 413, field="file")
            contents = {x.filename: z.read(x) for x in z.infolist()}
        told = contents.pop(LIST)
        listed = json.loads(told)
    except (zipfile.BadZipFile, KeyError, ValueError, NotImplementedError, RuntimeError, OSError, EOFError):
        raise Refused("archive-changed", sentence("archive.changed"), 422, field="file") from None
    if not isinstance(listed, dict) or listed.get("format") != FORMAT or listed.get("version") != VERSION:
        raise Refused("archive-unknown", sentence("archive.unknown"), 422, field="file")
    digests = listed.get("sha256")
    wrong = sorted(n for n, data in contents.items() if not isinstance(digests, dict) or digests.get(n) != hashlib.sha256(data).hexdigest())
    if wrong:
        raise Refused("archive-changed", sentence("archive.changed_in", name=wrong[0]), 422, field="file")
    if packed(contents) != content:
        raise Refused("archive-changed", sentence("archive.changed"), 422, field="file")
    return contents
