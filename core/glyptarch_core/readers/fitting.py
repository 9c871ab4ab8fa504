"""The last step of every reader: fit an entry to its limits and warn of what does not fit."""

import math
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime

from glyptarch_core.item import Credit, Item, Media
from glyptarch_core.readers.model import ReadWarning
from glyptarch_core.text import bounded_key, clean_json, clean_line, clean_text

__all__ = ["LONGEST_LINK", "fit_item"]

LONGEST_LINK = 4000
"""Characters of an address. A longer one cannot be cut: it would lead elsewhere."""

_LONGEST_TITLE = 1000
_LONGEST_IDENTITY = 2000
_LONGEST_NAME = 200
_MOST_NAMES = 100
_MOST_MEDIA = 200
_MOST_FACTS = 60
_LONGEST_FACT = 500
_YEARS = range(1900, 2200)


def fit_item(item: Item, number: int) -> tuple[Item, list[ReadWarning]]:
    """Return entry ``number`` (from 1) within its limits, with a warning for each part left out."""
    warnings = [ReadWarning(code=code, entry=number, detail=detail) for code, detail in _faults(item)]
    fitted = replace(
        item,
        identity=bounded_key(clean_text(item.identity) or "empty", _LONGEST_IDENTITY),
        link=_link(item.link),
        title=clean_line(item.title, _LONGEST_TITLE),
        summary=clean_text(item.summary),
        body=clean_text(item.body),
        authors=_names(item.authors),
        categories=_names(item.categories),
        published=_moment(item.published),
        updated=_moment(item.updated),
        media=tuple(_medium(medium) for medium in item.media if _link(medium.url))[:_MOST_MEDIA],
        language=clean_text(item.language),
        credit=_credit(item.credit),
        facts=dict([fact for name, value in item.facts.items() if (fact := _fact(name, value))][:_MOST_FACTS]),
        raw=clean_json(item.raw),
    )
    return fitted, warnings


def _faults(item: Item) -> Iterator[tuple[str, str]]:
    if len(item.link) > LONGEST_LINK:
        yield "link_too_long", item.link[:100]
    for moment in (item.published, item.updated):
        if moment is not None and moment.year not in _YEARS:
            yield "date_unlikely", moment.isoformat()
    if len(item.title) > _LONGEST_TITLE:
        yield "title_too_long", item.title[:100]
    if len(item.facts) > _MOST_FACTS:
        yield "too_many_facts", str(len(item.facts))
    cut = [name for name, value in item.facts.items() if isinstance(value, str) and len(value) > _LONGEST_FACT]
    if cut:
        yield "fact_too_long", ", ".join(cut)[:100]
    if len(item.media) > _MOST_MEDIA:
        yield "too_many_media", str(len(item.media))


def _link(link: str) -> str:
    clean = clean_text(link)
    return clean if len(clean) <= LONGEST_LINK else ""


def _names(names: tuple[str, ...]) -> tuple[str, ...]:
    lines = (clean_line(name, _LONGEST_NAME) for name in names)
    return tuple(dict.fromkeys(line for line in lines if line))[:_MOST_NAMES]


def _moment(moment: datetime | None) -> datetime | None:
    return moment if moment is not None and moment.year in _YEARS else None


def _medium(medium: Media) -> Media:
    mime = clean_line(medium.mime, _LONGEST_NAME)
    return replace(medium, url=clean_text(medium.url), mime=mime, alt=clean_line(medium.alt, 300))


def _credit(credit: Credit | None) -> Credit | None:
    return Credit(title=clean_line(credit.title, 300), link=_link(credit.link)) if credit else None


def _fact(name: str, value: str | float) -> tuple[str, str | float] | None:
    name = clean_line(name, _LONGEST_NAME)
    if isinstance(value, str):
        return name, clean_text(value)[:_LONGEST_FACT]
    return (name, value) if math.isfinite(value) else None
