"""The file of an archive: a zip whose every byte counts. Its list of contents has a digest for each, and its own is the comment.

The list carries the signature of who wrote it. Contents are stored as they are, in order and without a date, so that the same contents
make the same file: a byte that is another anywhere, in a content or around it, is seen.
"""

import hashlib
import io
import json
import zipfile
from collections.abc import Callable, Mapping

from server.shared.problems import Refused
from server.shared.words import sentence

LIST = "archive.json"
FORMAT = "dry-ledger-archive"
VERSION = 1
NEVER = (1980, 1, 1, 0, 0, 0)


def packed(contents: Mapping[str, bytes], sign: Callable[[str], object] = lambda digest: None) -> bytes:
    """The file of named contents, with what `sign` says of the digest of its list."""
    digests = {name: hashlib.sha256(data).hexdigest() for name, data in contents.items()}
    signature = sign(_digest(digests))
    head = {"format": FORMAT, "version": VERSION, "sha256": digests} | ({} if signature is None else {"signature": signature})
    told = json.dumps(head, indent=1, sort_keys=True).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as z:
        for name, data in {LIST: told, **dict(sorted(contents.items()))}.items():
            z.writestr(zipfile.ZipInfo(name, NEVER), data)
        z.comment = hashlib.sha256(told).hexdigest().encode()
    return out.getvalue()


def _digest(digests: object) -> str:
    return hashlib.sha256(json.dumps(digests, sort_keys=True).encode()).hexdigest()


def is_signed(content: bytes, proved: Callable[[str, str], bool]) -> bool:
    """Whether an archive that was unpacked carries a signature that proves who wrote it."""
    with zipfile.ZipFile(io.BytesIO(content)) as z:
        listed = json.loads(z.read(LIST))
    signature = listed.get("signature")
    return isinstance(signature, str) and signature.isascii() and proved(_digest(listed["sha256"]), signature)


def is_archive(content: bytes) -> bool:
    """Whether a file is meant to be an archive: a zip with the list of contents of one."""
    return content[:4] == b"PK\x03\x04" and content[30 : 30 + len(LIST)] == LIST.encode()


def unpacked(content: bytes) -> dict[str, bytes]:
    """The contents by name. Raises Refused where a byte is not as it was written."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as z:
            if any(x.compress_type != zipfile.ZIP_STORED or x.file_size > len(content) for x in z.infolist()):
                raise Refused("archive-changed", sentence("archive.changed"), 422, field="file")
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
    if packed(contents, lambda _: listed.get("signature")) != content:
        raise Refused("archive-changed", sentence("archive.changed"), 422, field="file")
    return contents
