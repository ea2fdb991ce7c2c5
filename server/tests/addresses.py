"""Every address of the API, as its document has it, with a project of the demo in its places."""

from collections.abc import Iterator
from typing import Any

from drf_spectacular.generators import SchemaGenerator

METHODS = ("get", "post", "put", "patch", "delete")
PLACES = {
    "project": "FERRY", "page": "now", "activity": "A150", "baseline": "B0", "file": "book.json", "feed": "1", "number": "1",
    "form": "csv", "mode": "within", "way": "undo", "row": "1", "id": "1", "code": "FERRY",
    "change": "CH2", "token": "none",
}  # fmt: skip

Operation = tuple[str, str]


def operations() -> Iterator[Operation]:
    """Every method and address of the API document."""
    document: Any = SchemaGenerator().get_schema(request=None, public=True)
    for path, methods in document["paths"].items():
        for method in METHODS:
            if method in methods:
                yield method, path


def address(path: str, **places: str) -> str:
    """An address of the document with something that is there in each of its places."""
    return path.format(**PLACES | ({"form": "html"} if "editions" in path else {}) | places)
