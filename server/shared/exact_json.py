"""JSON whose numbers stay exactly what they are: decimals out and in, never the nearest binary fraction."""

from decimal import Decimal
from typing import Any

import msgspec

__all__ = ["decode", "encode", "indented"]

_encoder = msgspec.json.Encoder(decimal_format="number")
_decoder = msgspec.json.Decoder(float_hook=Decimal)


def encode(value: Any) -> bytes:
    """Plain data as compact JSON.

    >>> encode({"weight": Decimal("0.10")})
    b'{"weight":0.10}'
    """
    return _encoder.encode(value)


def indented(value: Any, indent: int) -> bytes:
    """The same for people to read: each level on lines of its own, so many spaces in; 0: on one line."""
    return msgspec.json.format(_encoder.encode(value), indent=indent)


def decode(data: bytes | str) -> Any:
    """JSON as plain data. Raises msgspec.DecodeError."""
    return _decoder.decode(data)
