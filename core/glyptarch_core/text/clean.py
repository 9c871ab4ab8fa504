"""Text and data without characters that documents and databases cannot contain."""

import hashlib
import math
import re
import unicodedata
from collections.abc import Mapping, Sequence
from typing import Any

__all__ = ["bounded_key", "clean_json", "clean_line", "clean_text", "stream_safe"]

# Characters outside XML 1.0 (2.2, Char), with NUL, and surrogates, which UTF-8 cannot encode.
_UNWANTED = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
_UNWANTED_BYTES = bytes((*range(9), 0x0B, 0x0C, *range(0x0E, 0x20)))
_SURROGATE = re.compile("[\ud800-\udfff]")
_DEEPEST = 40
_LARGEST_NUMBER = 10**30
_DIGEST = 64
_MOST_MARKS = 30
_SHORT = 40


def clean_text(text: str) -> str:
    """Return a text without characters that XML 1.0 forbids.

    Surrogate pairs are joined.
    """
    if _is_clean(text):
        return text
    if _SURROGATE.search(text):
        text = text.encode("utf-16-le", "surrogatepass").decode("utf-16-le", "ignore")
    return _UNWANTED.sub("", text)


def _is_clean(text: str) -> bool:
    if len(text) <= _SHORT:
        return _UNWANTED.search(text) is None
    # For long texts, a search in bytes takes a quarter of the time of a pattern.
    try:
        encoded = text.encode()
    except UnicodeEncodeError:
        return False
    if len(encoded.translate(None, _UNWANTED_BYTES)) < len(encoded):
        return False
    return text.isascii() or not ("\ufffe" in text or "\uffff" in text)


def stream_safe(text: str) -> str:
    """Return a text with at most thirty marks on a letter.

    Stream-Safe Text Format, UAX #15, 13. Sorting the marks of a letter takes quadratic time.
    """
    if text.isascii() or len(text) <= _MOST_MARKS:
        return text
    kept: list[str] = []
    marks = 0
    for char in text:
        marks = marks + 1 if unicodedata.combining(char) else 0
        if marks <= _MOST_MARKS:
            kept.append(char)
    return "".join(kept)


def clean_line(text: str, longest: int) -> str:
    """Return a clean text on one line with single spaces, of at most ``longest`` characters."""
    return " ".join(clean_text(text).split())[:longest].rstrip()


def clean_json(value: Any, *, deepest: int = _DEEPEST) -> Any:  # noqa: ANN401 - any JSON value
    """Return a JSON value that PostgreSQL can store.

    Texts are cleaned; NaN and infinity (RFC 8259, 6) become null, very large numbers texts; levels below ``deepest``
    are dropped.
    """
    parts: Any
    match value:
        case str():
            parts = clean_text(value)
        case None | bool():
            parts = value
        case float():
            parts = value if math.isfinite(value) else None
        case int():
            parts = value if abs(value) < _LARGEST_NUMBER else f"{value:#x}"
        case dict() | list() | Mapping() | Sequence() if deepest <= 0:
            parts = None
        case dict() | Mapping():
            parts = {clean_text(str(key)): clean_json(part, deepest=deepest - 1) for key, part in value.items()}
        case list() | Sequence():
            parts = [clean_json(part, deepest=deepest - 1) for part in value]
        case _:
            parts = clean_text(str(value))
    return parts


def bounded_key(key: str, longest: int) -> str:
    """Return a key for equality.

    One longer than ``longest`` ends in the SHA-256 of the whole.
    """
    if len(key) <= longest:
        return key
    digest = hashlib.sha256(key.encode("utf-8", "surrogatepass")).hexdigest()
    return f"{key[: longest - _DIGEST]}{digest}"
