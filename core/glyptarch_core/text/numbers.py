"""Numbers as people and machines write them, with thousands separators and decimal marks."""

import re
import unicodedata

__all__ = ["number_in", "pixels"]

_BETWEEN_THOUSANDS = " \u00a0\u2009\u202f'\u2019"
_WRITTEN = re.compile(
    rf"-?(?:\d{{1,3}}(?:[{_BETWEEN_THOUSANDS}]\d{{3}}(?!\d))+(?:[.,]\d+)?|\d[\d.,]*\d|\d|(?<!\w)[.,]\d+)"
)
# Suffixes that multiply a number. A letter must follow directly, and "m" means metres.
_LETTERS = {"k": 1e3, "K": 1e3, "M": 1e6, "B": 1e9}
_WORDS = {
    **dict.fromkeys(("tsd", "thousand", "тыс"), 1e3),
    **dict.fromkeys(("mio", "mln", "million", "millions", "millionen", "млн"), 1e6),
    **dict.fromkeys(("bn", "mrd", "mld", "billion", "billions", "milliarden", "млрд"), 1e9),
}
_UNIT = re.compile(
    rf"([{''.join(_LETTERS)}])(?!\w)|[ \u00a0\u202f]?(?i:({'|'.join(sorted(_WORDS, key=len, reverse=True))}))(?!\w)\.?"
)
_POWER = re.compile(r"[eE][+-]?\d{1,2}(?![\w.,])")
_SIGNS = str.maketrans("−＋．，٫٬", "-+.,.,")
_MOST_DIGITS = 15
_GROUP = 3


def _plain_digits(text: str) -> str:
    """Return a text with the digits of every script as ASCII digits."""
    if text.isascii():
        return text
    signs = text.translate(_SIGNS)
    return "".join(str(unicodedata.decimal(char)) if char.isdecimal() else char for char in signs)


def number_in(text: str, *, alone: bool = False) -> float | None:
    """Return the first number in a text, or None.

    With ``alone`` the text must be the number. The last of two different marks is the decimal one (``1.234,50``,
    ``1,234.50``); one that repeats separates thousands. A comma before exactly three digits separates thousands. A
    point there is decimal, as machines write it (schema.org, *price*), unless a currency or word is beside it:
    ``1.299`` is a little over one, ``1.299 €`` over a thousand.
    """
    text = _plain_digits(text)
    match = _WRITTEN.search(text)
    if match is None:
        return None
    written, unit = match.group(), _UNIT.match(text, match.end())
    times = 1.0
    if unit:
        times = _LETTERS[unit.group(1)] if unit.group(1) else _WORDS[unit.group(2).lower()]
    beside = text.strip() != written + (unit.group() if unit else "")
    if alone and beside:
        return None
    if power := _POWER.match(text, match.end()):
        return float(f"{written.replace(',', '.')}{power.group()}")
    beside = beside or unit is not None
    bare = re.sub(f"[{_BETWEEN_THOUSANDS}]", "", written)
    mark = _decimal_mark(bare.lstrip("-"), grouped=bare != written, by_a_person=beside)
    whole, _, rest = bare.rpartition(mark) if mark else (bare, "", "")
    groups = re.split("[.,]", whole.lstrip("-"))
    if len(groups) > 1 and not _are_groups(groups):
        return None
    digits = "".join(groups)
    if len(digits) + len(rest) > _MOST_DIGITS:
        return None
    return float(f"{'-' if written.startswith('-') else ''}{digits or 0}.{rest or 0}") * times


def _are_groups(groups: list[str]) -> bool:
    """Whether digits are grouped by threes, or as in India by twos before the last three."""
    first, *between, last = groups
    if len(last) != _GROUP or not 1 <= len(first) <= _GROUP:
        return False
    indian = len(first) < _GROUP and all(len(group) == _GROUP - 1 for group in between)
    return all(len(group) == _GROUP for group in between) or indian


def _decimal_mark(bare: str, *, grouped: bool, by_a_person: bool) -> str:
    """Return the decimal mark.

    Empty where there are no decimals.
    """
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
    """Return a stated width or height in pixels.

    None where it is implausible (HTML, 2.3.4.1).
    """
    digits = str(value or "").strip().removesuffix("px")
    return int(digits) if digits.isascii() and digits.isdigit() and len(digits) <= _LONGEST_SIZE else None
