"""What the parts of an archive hold, so that nothing else is taken for them: an archive may be written by anybody."""

import zlib
from datetime import datetime
from decimal import Decimal
from typing import Annotated, Any, Literal
from uuid import UUID

import msgspec

MOST, MOST_TIMES = 64 * 1024 * 1024, 60
"""Bytes that a part may come to when it is unpacked, and how many times its size: what a page holds comes to some 15 times."""
Key = Annotated[int, msgspec.Meta(ge=0, le=2**62)]
Count = Annotated[int, msgspec.Meta(ge=0, le=2**31 - 1)]
Text = Annotated[str, msgspec.Meta(max_length=200)]
Digest = Annotated[str, msgspec.Meta(max_length=64)]
Status = Literal["", "on_plan", "watch", "act"]
Mark = Literal["", "done", "on_plan", "watch", "act", "soon", "not_due"]
Keys = dict[str, dict[str, Key]]
Review = tuple[Literal["asked", "sent_back", "approved", "comment", "settled"], Text, str, Count | None, Key, datetime, Digest]
Sent = tuple[Text, Text, Literal["delivered", "bounced"], str, Key, datetime]


class ArchivedHeadWords(msgspec.Struct):
    """What was said of one head of a report."""

    mark: Status = ""
    reason: str = ""


class ArchivedAddition(msgspec.Struct):
    """Something added to the words of a page after it was sealed."""

    subject: Annotated[str, msgspec.Meta(max_length=220)]
    mark: Status
    text: str
    by: Key
    at: datetime


class DraftWords(msgspec.Struct):
    """The words of a page's report."""

    status: Status
    reason: str
    words: str
    texts: dict[str, str]
    heads: dict[str, ArchivedHeadWords]


class ClosedAs(msgspec.Struct):
    """Who closed a page, and its rows, as they were sealed."""

    by: Key | None
    keys: Keys


class PageHead(msgspec.Struct):
    """A page with all of it that is not the book's."""

    uid: UUID
    code: Text
    state: Literal["wet", "dry"]
    revision: Count
    digest: Digest
    previous: Digest
    calculation: Annotated[int, msgspec.Meta(ge=1, le=10_000)]
    mark: Mark
    keys: Keys
    closed_as: ClosedAs | None
    by: Key | None
    at: datetime | None
    draft: DraftWords | None
    review: list[Review]
    added: list[ArchivedAddition] = []


class EditionHead(msgspec.Struct):
    """An edition of a page's report; `as_` is who issued it as that was sealed."""

    page: UUID
    number: Count
    file: Text
    status: Literal["on_plan", "watch", "act"]
    by: Key
    as_: Key | None = msgspec.field(name="as")
    at: datetime
    digest: Digest
    content: dict[str, Any] | None
    sent: list[Sent]


class SealedAs(msgspec.Struct):
    """How a step was sealed: its name in the chain, and who did it."""

    pk: str
    by: Key


class StepHead(msgspec.Struct):
    """A step of the journal."""

    by: Key
    at: datetime
    sealed_as: SealedAs
    revision: Count
    kind: Annotated[str, msgspec.Meta(max_length=30)]
    role: Literal["reader", "analyst", "approver"]
    label: Annotated[str, msgspec.Meta(max_length=500)]
    subject: Annotated[str, msgspec.Meta(max_length=100)]
    changes: list[dict[str, Any]]
    undone: bool
    undoable: bool
    dropped: bool


class ArchiveHead(msgspec.Struct):
    """The project, its pages, editions and the chain over all of it."""

    uid: UUID
    code: str
    name: str
    revision: Count
    plan_revision: Count
    sealed: Digest
    sealed_count: Count
    members_only: bool
    rows: dict[str, dict[str, str]]
    pages: list[PageHead]
    seals: list[tuple[Count, Annotated[str, msgspec.Meta(max_length=10)], Annotated[str, msgspec.Meta(max_length=100)], Digest, Digest]]
    recipients: list[tuple[Text, Annotated[str, msgspec.Meta(max_length=254)]]]
    editions: list[EditionHead]
    people: dict[str, tuple[Annotated[str, msgspec.Meta(min_length=1, max_length=150)], Text]]


def read_head(data: bytes) -> ArchiveHead:
    """The head of an archive. Raises msgspec.MsgspecError."""
    return msgspec.json.decode(data, type=ArchiveHead)


def read_steps(data: bytes) -> list[StepHead]:
    """The journal of an archive, a step a line. Raises msgspec.MsgspecError."""
    read = msgspec.json.Decoder(StepHead, float_hook=Decimal)
    return [read.decode(line) for line in data.splitlines()]


def expanded(data: bytes) -> bytes:
    """What was packed. Raises ValueError where it comes to more than a page can, zlib.error where it can't be unpacked."""
    machine = zlib.decompressobj()
    out = machine.decompress(data, min(MOST, MOST_TIMES * (len(data) + 100)))
    if machine.unconsumed_tail or not machine.eof:
        raise ValueError("too much")
    return out
