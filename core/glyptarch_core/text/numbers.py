"""Numbers as people and machines write them: with thousands apart, and a decimal point or comma."""

import re

__all__ = ["number_in", "pixels"]

_BETWEEN_THOUSANDS = " \u00a0\u2009\u202f'\u2019"
_WRITTEN = re.compile(
    rf"-?(?:\d{{1,3}}(?:[{_BETWEEN_THOUSANDS}]\d{{3}}(?!\d))+(?:[.,]\d+)?|\d[\d.,]*\d|\d|(?<!\w)[.,]\d+)"
)
_MOST_DIGITS = 15
_GROUP = 3


def number_in(text: str, *, alone: bool = False) -> float | None:
    """Give the first number in a text, or None; with ``alone`` nothing else may stand beside it.

    The last of two different marks is the decimal one (``1.234,50``, ``1,234.50``), one that comes
    several times parts thousands. A comma before exactly three digits parts thousands. A point
    there is a decimal one, as machines write it (schema.org, *price*), unless a person has set
    something beside it: ``1.299`` is a little over one, ``1.299 €`` over a thousand.
    """
    match = _WRITTEN.search(text)
    if match is None:
        return None
    written = match.group()
    beside = text.strip() != written
    if alone and beside:
        return None
    bare = re.sub(f"[{_BETWEEN_THOUSANDS}]", "", written)
    mark = _decimal_mark(bare.lstrip("-"), grouped=bare != written, by_a_person=beside)
    whole, _, rest = bare.rpartition(mark) if mark else (bare, "", "")
    groups = re.split("[.,]", whole.lstrip("-"))
    if len(groups) > 1 and not (1 <= len(groups[0]) <= _GROUP and all(len(one) == _GROUP for one in groups[1:])):
        return None
    digits = "".join(groups)
    if len(digits) + len(rest) > _MOST_DIGITS:
        return None
    return float(f"{'-' if written.startswith('-') else ''}{digits or 0}.{rest or 0}")


def _decimal_mark(bare: str, *, grouped: bool, by_a_person: bool) -> str:
    """Give the mark before the decimals, nothing where there are none."""
    points, commas = bare.count("."), bare.count(",")
    if points and commas:
        last = max(".", ",", key=bare.rfind)
        return last if bare.count(last) == 1 else ""
    if points + commas != 1:
        return ""
    mark = "." if points else ","
    head, _, tail = bare.partition(mark)
    could_be_thousands = not grouped and len(tail) == _GROUP and head[:1] not in {"", "0"} and len(head) <= _GROUP
    return "" if could_be_thousands and (mark == "," or by_a_person) else mark


_LONGEST_SIZE = 5


def pixels(value: object) -> int | None:
    """Give a stated width or height in pixels, or None where it is no sensible number (HTML, 2.3.4.1)."""
    digits = str(value or "").strip().removesuffix("px")
    return int(digits) if digits.isascii() and digits.isdigit() and len(digits) <= _LONGEST_SIZE else None
