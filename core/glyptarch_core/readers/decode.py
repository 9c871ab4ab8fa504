"""Bytes to text: by byte order mark, by evidence, by declaration, and last by a detector.

Declarations are often wrong. Bytes that are valid UTF-8 and not only ASCII are hardly ever anything else, so they are
believed before any declaration.
"""

import codecs
import re
from dataclasses import dataclass

import webencodings
from charset_normalizer import from_bytes

__all__ = ["Decoded", "decode"]

_MARKS = (
    # Longer marks first, because that of UTF-32 begins with that of UTF-16.
    (codecs.BOM_UTF32_LE, "utf-32-le"),
    (codecs.BOM_UTF32_BE, "utf-32-be"),
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)
_CHARSET = re.compile(r"charset\s*=\s*[\"']?([^\s\"';]+)", re.IGNORECASE)
_DECLARED = re.compile(rb"<\?xml[^>]{0,200}?encoding\s*=\s*[\"']([A-Za-z0-9._:-]{1,40})[\"']")
_START = 1024
_LOOKED_AT = 32 << 10
_WIDE = ("utf-16-le", "utf-16-be", "utf-32-le", "utf-32-be")
# The share of broken letters beyond ASCII up to which a text still counts as UTF-8.
_MOST_BROKEN = 0.1
_LEAST_KANA = 0.15
_MOSTLY = 0.8
_HIGH = re.compile(rb"[\x80-\xff]+")
_TAG = re.compile(rb"<[^<>]{0,500}>")
# Frequent encodings of the web besides UTF-8 and Japanese ones.
_LIKELY = ("big5", "gb18030", "cp949", "koi8_r", "cp1251", "cp1250", "cp1253", "cp1254", "cp1255", "cp1256", "tis_620")
# Labels for which browsers decode a larger set than Python's codec of that name.
_LARGER = {"gbk": "gb18030", "gb2312": "gb18030"}


@dataclass(frozen=True, slots=True)
class Decoded:
    """A text, its encoding (Python's name), and the declared encoding where that differs."""

    text: str
    encoding: str
    declared: str = ""


def decode(body: bytes, content_type: str = "") -> Decoded:
    """Read bytes as text.

    Any bytes give a text. Invalid sequences become U+FFFD. Labels have the meaning of WHATWG Encoding: ``shift_jis`` is
    Windows code page 932, ``euc-kr`` is 949, ``iso-8859-1`` is 1252.
    """
    for mark, encoding in _MARKS:
        if body.startswith(mark):
            return Decoded(body[len(mark) :].decode(encoding, "replace"), encoding)
    declared = _declared(body, content_type)
    encoding = _encoding_of(body, declared)
    differs = bool(declared) and not body.isascii() and encoding != declared
    return Decoded(body.decode(encoding, "replace"), encoding, declared if differs else "")


def _declared(body: bytes, content_type: str) -> str:
    """Return Python's name of the encoding in the header or the XML declaration (RFC 7303, 3)."""
    named = _CHARSET.search(content_type)
    inside = _DECLARED.search(body[:_START])
    for label in (named and named.group(1), inside and inside.group(1).decode("ascii")):
        encoding = webencodings.lookup(label) if label and label.isascii() else None
        if encoding is not None and encoding.name != "replacement":
            name: str = encoding.codec_info.name
            return _LARGER.get(name, name)
    return ""


def _encoding_of(body: bytes, declared: str) -> str:
    if body.isascii() and b"\x00" not in body and declared != "iso2022_jp":
        return "utf-8"
    wide = _without_mark(body)
    if wide:
        return wide
    broken = _broken_share(body)
    if broken == 0.0:
        return "utf-8"
    if declared and declared not in {"utf-8", *_WIDE}:
        return declared
    if broken <= _MOST_BROKEN:
        return "utf-8"
    return _detected(_TAG.sub(b" ", body[:_LOOKED_AT]))


def _detected(sample: bytes) -> str:
    """Return the most likely encoding of a sample without markup."""
    japanese = next((encoding for encoding in ("cp932", "euc_jp") if _kana_share(sample, encoding) > _LEAST_KANA), "")
    if japanese:
        return japanese
    high = _HIGH.findall(sample)
    if sum(map(len, high)) and sum(1 for run in high if len(run) == 1) / len(high) > _MOSTLY:
        # Single letters beyond ASCII between plain ones mean a Latin alphabet.
        return "cp1252"
    detected = from_bytes(sample, cp_isolation=list(_LIKELY)).best()
    return detected.encoding if detected is not None else "cp1252"


def _kana_share(sample: bytes, encoding: str) -> float:
    """Return the share of kana among non-ASCII letters.

    Only Japanese text has them.
    """
    text = sample.decode(encoding, "replace")
    beyond = [char for char in text if char > "\x7f"]
    if not beyond or text.count("\ufffd") > _MOST_BROKEN * len(beyond):
        return 0.0
    return sum(1 for char in beyond if "\u3040" <= char <= "\u30ff") / len(beyond)


def _without_mark(body: bytes) -> str:
    """Return UTF-16 or UTF-32 recognised without a mark.

    The zeros of the first ``<`` or ``{`` tell it.
    """
    start = body[:4]
    first = start.replace(b"\x00", b"")[:1]
    if first not in {b"<", b"{", b"["}:
        return ""
    return next((encoding for encoding in _WIDE[::-1] if start.startswith(first.decode().encode(encoding))), "")


def _broken_share(body: bytes) -> float:
    """Return the share of non-ASCII letters that are invalid UTF-8.

    0 where all are valid.
    """
    try:
        body.decode("utf-8")
    except UnicodeDecodeError:
        text = body.decode("utf-8", "replace")
        broken = text.count("\ufffd")
        beyond = sum(1 for char in text if char > "\x7f")
        return broken / max(beyond, 1) if beyond > broken else 1.0
    return 0.0
