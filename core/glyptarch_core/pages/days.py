"""Dates as pages write them, alone or among other words. A wrong date is worse than none."""

from datetime import datetime

from lxml.html import HtmlElement

from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.page import text_in
from glyptarch_core.readers.dates import moment_of

__all__ = ["date_in", "read_date"]


def date_in(element: HtmlElement, language: str = "", *, now: datetime | None = None) -> datetime | None:
    """Return the time that an element states, by its attribute or else by its text."""
    for value in (element.get("datetime"), element.get("content"), element.get("title"), text_in(element)):
        if value and (date := read_date(value, language, now=now)) is not None:
            return date
    return None


def read_date(
    text: str, language: str = "", *, now: datetime | None = None, day_first: bool | None = None
) -> datetime | None:
    """Return the time named in a text, possibly among other words.

    ``language``, ``now`` and ``day_first`` as in :func:`find_date`. None where it is ambiguous.
    """
    moment = None if day_first is not None else moment_of(text, language)
    if moment is None:
        found = find_date(text, language, now=now, day_first=day_first)
        moment = found.moment if found else None
    return moment
