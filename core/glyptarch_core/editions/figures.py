"""The numbers of a text, as they must be in its translation.

Languages write one number in several ways: ``1,299.50`` and ``1.299,50``, ``3万`` and ``30,000``, ``3 pm`` and
``15:00``. Marks of thousands and of decimals are those of CLDR (through babel).
"""

import re
import unicodedata
from collections.abc import Iterator
from functools import cache
from typing import Final, NamedTuple

from babel import Locale, UnknownLocaleError

__all__ = ["Figure", "figures", "unmatched"]

_SPACES = " \u00a0\u2009\u202f'’"
_PARTS = re.compile(
    r"(?<![\d.,])(\d{1,4})([./-])(\d{1,2})\2(\d{1,4})(?![\d])|(?<![\d:])(\d{1,2}):(\d{2})(?::(\d{2}))?(?!\d)"
)
_NUMBER = re.compile(rf"\d{{1,3}}(?:[{_SPACES}]\d{{3}}(?!\d))+(?:[.,٫]\d+)?|\d+(?:[.,٫٬·]\d+)*")
_TIMES: Final = {"百": 100, "千": 1000, "万": 10_000, "萬": 10_000, "億": 10**8, "亿": 10**8, "만": 10_000, "억": 10**8}
_HALF_DAY = 12
_GROUP = 3
_MOST_DIGITS = 30


class Figure(NamedTuple):
    """A number of a text: as it is written, and what it is worth in its language."""

    written: str
    worth: str


@cache
def _marks(language: str) -> tuple[str, str]:
    """Return the decimal mark and the mark of thousands of a language."""
    try:
        symbols = Locale.parse(language.replace("-", "_")).number_symbols
    except (UnknownLocaleError, ValueError):
        return ".", ","
    latin = symbols.get("latn", symbols)
    return str(latin.get("decimal", ".")), str(latin.get("group", ","))


def _plain(text: str) -> str:
    return "".join(str(unicodedata.decimal(char)) if char.isdecimal() else char for char in text)


def _worth(written: str, decimal: str, group: str) -> str:
    """Return a number without marks of thousands and with a point before its decimals."""
    bare = re.sub(f"[{_SPACES}]", "", written).replace("٫", decimal).replace("٬", group)
    marks = [char for char in bare if not char.isdigit()]
    if len(set(marks)) > 1:
        last = marks[-1]
        bare = "".join("." if char == last else char for char in bare if char.isdigit() or char == last)
    elif len(marks) == 1 and (marks[0] == decimal or len(bare.partition(marks[0])[2]) != _GROUP):
        bare = bare.replace(marks[0], ".")
    elif marks and _are_groups(re.split(r"\D", bare)):
        bare = "".join(filter(str.isdigit, bare))
    whole, point, rest = bare.partition(".")
    if not rest.isdigit():
        return f"{whole.lstrip('0') or '0'}{point}{rest}"
    rest = rest.rstrip("0")
    return f"{whole.lstrip('0') or '0'}{'.' if rest else ''}{rest}"


def _are_groups(parts: list[str]) -> bool:
    """Whether digits are in groups of three, or of two before the last three, as in India."""
    *between, last = parts[1:]
    return len(last) == _GROUP and len({len(part) for part in between}) <= 1 and all(len(part) > 1 for part in between)


def _pieces(text: str) -> Iterator[tuple[str, int]]:
    """Yield the numbers of a text with where they end. Dates and times are several."""
    at = 0
    for match in _PARTS.finditer(text):
        for number in _NUMBER.finditer(text, at, match.start()):
            yield number[0], number.end()
        for group in filter(None, match.group(1, 3, 4, 5, 6, 7)):
            yield group, len(text)
        at = match.end()
    for number in _NUMBER.finditer(text, at):
        yield number[0], number.end()


def figures(text: str, language: str) -> list[Figure]:
    """Return the numbers of a plain text in their order. ``language`` (BCP 47) tells its marks."""
    text = _plain(text)
    decimal, group = _marks(language or "en")
    found = []
    for written, end in _pieces(text):
        if len(written) > _MOST_DIGITS:
            found.append(Figure(written, written))
            continue
        worth = _worth(written, decimal, group)
        times = _TIMES.get(text[end : end + 1])
        if times and re.fullmatch(r"\d+(?:\.\d+)?", worth):
            worth = f"{float(worth) * times:.10f}".rstrip("0").rstrip(".")
        found.append(Figure(written, worth))
    return found


def unmatched(before: list[Figure], after: list[Figure], *, hours: bool) -> tuple[list[Figure], list[Figure]]:
    """Return the numbers of a text that another has not, and those that only the other has.

    Equal are those that are written or worth the same. With ``hours`` the text counts them from noon as well, so that
    “3 pm” may be “15:00”.
    """
    left = list(after)
    missing = []
    for figure in before:
        equal = next((other for other in left if figure.worth == other.worth or figure.written == other.written), None)
        if equal is None:
            missing.append(figure)
        else:
            left.remove(equal)
    if not hours:
        return missing, left
    for figure in list(missing):
        equal = next((other for other in left if _same_hour(figure.worth, other.worth)), None)
        if equal is not None:
            missing.remove(figure)
            left.remove(equal)
    return missing, [figure for figure in left if figure.worth != "0"]


def _same_hour(one: str, other: str) -> bool:
    (hour, _, minutes), (other_hour, _, other_minutes) = one.partition("."), other.partition(".")
    if minutes != other_minutes or not (hour.isdigit() and other_hour.isdigit()):
        return False
    first, second = sorted((int(hour), int(other_hour)))
    return 1 <= first <= _HALF_DAY and second == first + _HALF_DAY
