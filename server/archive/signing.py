"""What an installation signs its archives with: a key of its own, kept beside the data, and the keys of those that it trusts.

Digests and the chain show that nothing was changed by accident; anybody can reckon them anew. A signature shows who wrote the archive.
"""

import hashlib
import hmac
import os
import secrets
from pathlib import Path

from django.conf import settings

OWN, TRUSTED = "archive-key", "trusted-keys"
"""Files beside the data: a line of hexadecimal digits, and a line for each other installation's."""


def _own_key() -> bytes:
    kept = Path(settings.DATA) / OWN
    try:
        made = os.open(kept, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
    except FileExistsError:
        return bytes.fromhex(kept.read_text().strip())
    with os.fdopen(made, "w") as file:
        file.write(secrets.token_hex(32) + "\n")
    return bytes.fromhex(kept.read_text().strip())


def _trusted_keys() -> list[bytes]:
    kept = Path(settings.DATA) / TRUSTED
    lines = kept.read_text().split() if kept.exists() else []
    return [bytes.fromhex(line) for line in lines if len(line) == 64 and not set(line.lower()) - set("0123456789abcdef")]


def _made(key: bytes, digest: str) -> str:
    return hmac.new(key, digest.encode(), hashlib.sha256).hexdigest()


def sign(digest: str) -> str:
    """The signature of this installation under the digest of an archive's list of contents."""
    return _made(_own_key(), digest)


def is_proved(digest: str, signature: str) -> bool:
    """Whether this installation, or one that it trusts, made a signature."""
    return any(hmac.compare_digest(_made(key, digest), signature) for key in (_own_key(), *_trusted_keys()))
