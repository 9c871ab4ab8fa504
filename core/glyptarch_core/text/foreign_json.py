"""JSON from outside (RFC 8259), with numbers that every reader can calculate with."""

import json
import math
import re
from typing import Any

__all__ = ["ForeignJsonDecoder", "load_json", "value_at"]

_MOST_DIGITS = 40
_PLACE = re.compile(r"\d{1,6}\Z", re.ASCII)


def _whole(digits: str) -> int | None:
    return int(digits) if len(digits) <= _MOST_DIGITS else None


def _real(digits: str) -> float | None:
    number = float(digits)
    return number if math.isfinite(number) else None


def _constant(_name: str) -> None:
    """Return None for NaN and Infinity, which JSON does not have and some sources write."""


class ForeignJsonDecoder(json.JSONDecoder):
    """A decoder that reads numbers beyond a double as None (RFC 8259, 6, leaves the range open).

    Python would return an integer of 400 digits, which ``math.isfinite`` and ``float`` refuse with OverflowError.
    """

    def __init__(self) -> None:
        super().__init__(parse_int=_whole, parse_float=_real, parse_constant=_constant)


def load_json(text: str | bytes) -> Any:  # noqa: ANN401 - any JSON value
    """Return the value of a JSON text. Raises ValueError for invalid or too deeply nested text."""
    try:
        return json.loads(text, cls=ForeignJsonDecoder)
    except RecursionError as error:
        raise ValueError("it is nested too deeply") from error


def value_at(value: Any, path: str) -> Any:  # noqa: ANN401 - any JSON value
    """Return the value at a dotted path of names and places in lists.

    An example is ``author.links.0``. None where there is none. The value itself for an empty path.
    """
    for part in path.split(".") if path else ():
        if isinstance(value, dict):
            value = value.get(part)
        elif isinstance(value, list) and _PLACE.match(part) and int(part) < len(value):
            value = value[int(part)]
        else:
            return None
    return value
