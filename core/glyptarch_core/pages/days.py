"""Dates as pages write them, alone or among other words. A wrong date is worse than none."""

import re
from datetime import datetime

from lxml.html import HtmlElement

from glyptarch_core.pages.page import text_in
from glyptarch_core.readers.dates import moment_of

__all__ = ["DATE_IN_TEXT", "date_in", "read_date"]


def date_in(element: HtmlElement) -> datetime | None:
    """Return the time that an element states, by its attribute or else by its text."""
    for value in (element.get("datetime"), element.get("content"), element.get("title"), text_in(element)):
        if value and (date := read_date(value)) is not None:
            return date
    return None


_MONTHS = 12
DATE_IN_TEXT = re.compile(
    r"\d{4}-\d{1,2}-\d{1,2}(?:[T ]\d{1,2}:\d{2}(?::\d{2})?(?:Z|[+-]\d{2}:?\d{2})?)?"
    r"|\d{1,2}\.? ?(?:de )?[^\W\d_]{3,12}\.?,? (?:de )?\d{4}"
    r"|[^\W\d_]{3,12}\.? \d{1,2}(?:st|nd|rd|th)?,? \d{4}|\d{1,2}[./]\d{1,2}[./]\d{4}|\d{4}年\d{1,2}月\d{1,2}日"
)


def read_date(text: str) -> datetime | None:
    """Return the time named in a text, possibly among other words.

    None where it is ambiguous.
    """
    moment = moment_of(text)
    if moment is None:
        for match in DATE_IN_TEXT.finditer(text[:300]):
            moment = moment_of(_in_order(match[0]))
            if moment is not None:
                break
    return moment


def _in_order(text: str) -> str:
    """Return a date rewritten in an unambiguous order, from month first, dots or CJK date signs."""
    written = re.sub(r"(?<=\d)(?:st|nd|rd|th)\b", "", text)
    words = re.match(r"([^\W\d_]+)\.? (\d{1,2}),? (\d{4})$", written)
    if words:
        return f"{words[2]} {words[1]} {words[3]}"
    signs = re.match(r"(\d{4})年(\d{1,2})月(\d{1,2})日$", written)
    if signs:
        return f"{signs[1]}-{int(signs[2]):02}-{int(signs[3]):02}"
    slashes = re.match(r"(\d{1,2})/(\d{1,2})/(\d{4})$", written)
    # 03/04 is March or April, depending on the country, so only unambiguous dates are read.
    if slashes and (int(slashes[1]) > _MONTHS or int(slashes[2]) > _MONTHS or slashes[1] == slashes[2]):
        day, month = (
            (slashes[1], slashes[2])
            if int(slashes[1]) > _MONTHS or slashes[1] == slashes[2]
            else (slashes[2], slashes[1])
        )
        return f"{slashes[3]}-{int(month):02}-{int(day):02}"
    dots = re.match(r"(\d{1,2})\.(\d{1,2})\.(\d{4})$", written)
    if dots and int(dots[2]) <= _MONTHS:
        return f"{dots[3]}-{int(dots[2]):02}-{int(dots[1]):02}"
    return written.replace(",", "")
