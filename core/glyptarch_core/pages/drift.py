"""Whether the layout of a site has changed, and where its known values are now.

Every reading is compared with earlier ones. A selector that matched a dozen elements and now matches none means a
changed layout, not a quiet day. Values read earlier, looked up in the new page, show the new positions.
"""

import re
import statistics
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lxml.html import HtmlElement

from glyptarch_core.pages.carried import lists_in_data
from glyptarch_core.pages.days import read_date
from glyptarch_core.pages.derive import derive
from glyptarch_core.pages.document import ArticlePage, FieldReader, ListPage, Way, WayKind
from glyptarch_core.pages.main_text import main_element
from glyptarch_core.pages.page import Page, text_in
from glyptarch_core.pages.propose import propose_lists
from glyptarch_core.pages.reading import read_list

__all__ = ["Change", "Known", "Mend", "Tally", "changes", "mend_article", "mend_list"]

_FEWEST_READINGS = 2
_FEWEST = 3
_DROPPED_TO = 0.34
_SURE = 0.6
_LOOKED_BACK = 14


@dataclass(frozen=True, slots=True, kw_only=True)
class Tally:
    """Counts of one reading: matches by selector, articles by field, median words.

    ``of`` is the address of the list; each list is compared with its own past only.
    """

    counts: Mapping[str, int]
    filled: Mapping[str, float]
    words: int = 0
    articles: int = 0
    of: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """A count that has dropped, with its usual value and its value now.

    ``part`` is ``list.link``, ``article.text``, ``words``, and so on.
    """

    part: str
    was: float
    now: float


def changes(past: Sequence[Tally], now: Tally) -> tuple[Change, ...]:
    """Return the counts below a third of their usual value.

    None while too little is known.
    """
    usual = [tally for tally in past if tally.of == now.of][-_LOOKED_BACK:]
    if len(usual) < _FEWEST_READINGS:
        return ()
    dropped: list[Change] = []
    for name in {name for tally in usual for name in tally.counts}:
        was = statistics.median([tally.counts.get(name, 0) for tally in usual])
        if was >= (1 if name == "next" else _FEWEST) and now.counts.get(name, 0) < was * _DROPPED_TO:
            dropped.append(Change(part=f"list.{name}", was=was, now=now.counts.get(name, 0)))
    read = [tally for tally in usual if tally.articles]
    if read and now.articles:
        for name in {name for tally in read for name in tally.filled}:
            share = statistics.median([tally.filled.get(name, 0.0) for tally in read])
            if share >= 0.6 and now.filled.get(name, 0.0) < share * _DROPPED_TO:  # noqa: PLR2004 - usually filled
                dropped.append(Change(part=f"article.{name}", was=share, now=now.filled.get(name, 0.0)))
        words = statistics.median([tally.words for tally in read])
        if words >= 60 and now.words < words * _DROPPED_TO:  # noqa: PLR2004 - words of a short note
            dropped.append(Change(part="words", was=words, now=now.words))
    return tuple(sorted(dropped, key=lambda change: change.part))


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """The fields read earlier of one article."""

    url: str
    title: str
    fields: Mapping[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Mend:
    """New settings for a page, and the number of known articles that they find.

    Also says whether that makes them certain.
    """

    settings: ListPage
    found: int
    known: int
    sure: bool


def _bare(text: str) -> str:
    return re.sub(r"\W+", " ", text).strip().lower()


def mend_list(page: Page, settings: ListPage, articles: Sequence[Known]) -> Mend | None:
    """Return settings that find the known articles in the page now.

    None where nothing supports any.
    """
    urls = {article.url for article in articles}
    if settings.data is not None and (mended_data := _mended_data(page, settings, urls)) is not None:
        return mended_data
    titles = {_bare(article.title): article.url for article in articles if article.title}
    pairs = [(link, url) for link in page.body.iter("a") if (url := _which(page, link, urls, titles))]
    best: tuple[float, ListPage] | None = None
    for link in _selectors(page, pairs):
        changed_settings = settings.model_copy(update={"link": link, "data": None})
        listed_urls = {entry.url for entry in read_list(page, changed_settings).entries}
        score = len(listed_urls & _now_at(pairs, page)) - 0.2 * len(listed_urls - _now_at(pairs, page))
        if best is None or score > best[0]:
            best = (score, changed_settings)
    if best is None:
        proposed = propose_lists(page)
        if not proposed:
            return None
        kept = {"pages": settings.pages, "pattern": settings.pattern}
        return Mend(settings=proposed[0].settings.model_copy(update=kept), found=0, known=len(articles), sure=False)
    mended = _with_fields(page, best[1], articles)
    there = _now_at(pairs, page)
    found_again = len({entry.url for entry in read_list(page, mended).entries} & there)
    sure = len(there) >= _FEWEST and found_again >= len(there) * _SURE
    return Mend(settings=mended, found=found_again, known=len(there), sure=sure)


def _mended_data(page: Page, settings: ListPage, urls: set[str]) -> Mend | None:
    """Return the list in the page's data that names most of the known articles."""
    places = [settings.model_copy(update={"data": where}) for where, _ in lists_in_data(page)]
    counted = [(len({entry.url for entry in read_list(page, attempt).entries} & urls), attempt) for attempt in places]
    most, best = max(counted, key=lambda counted: counted[0], default=(0, settings))
    return Mend(settings=best, found=most, known=most, sure=most >= _FEWEST) if most else None


def _which(page: Page, link: HtmlElement, urls: set[str], titles: Mapping[str, str]) -> str:
    """Return the known article that a link leads to, by address or else by title."""
    url = page.resolve(link.get("href")).partition("#")[0]
    if url in urls:
        return url
    return titles.get(_bare(text_in(link)), "")


def _now_at(pairs: Sequence[tuple[HtmlElement, str]], page: Page) -> set[str]:
    return {page.resolve(link.get("href")).partition("#")[0] for link, _ in pairs}


def _selectors(page: Page, pairs: Sequence[tuple[HtmlElement, str]]) -> list[str]:
    """Return selectors for similar links to known articles, those with a text first."""
    kinds: dict[tuple[object, ...], list[HtmlElement]] = {}
    for link, _ in pairs:
        kind = tuple(str(element.tag) for element in [link, *link.iterancestors()])
        kinds.setdefault(kind, []).append(link)
    groups = sorted(kinds.values(), key=lambda group: (-sum(bool(text_in(element)) for element in group), -len(group)))
    selectors: list[str] = []
    for group in groups[:4]:
        ends = [group[0], group[-1]] if len(group) > 1 else group
        selectors += [derived.selector for derived in (*derive(page, group[:10])[:2], *derive(page, ends)[:2])]
    return list(dict.fromkeys(selectors))


def _with_fields(page: Page, settings: ListPage, articles: Sequence[Known]) -> ListPage:
    """Return a list page with its fields where their known values are now."""
    fields: list[FieldReader] = []
    proposed = {field.name: field for proposal in propose_lists(page)[:1] for field in proposal.settings.fields}
    for field in settings.fields:
        values = {value for article in articles if (value := article.fields.get(field.name, ""))}
        elements = _holding(page, field.name, values)
        derived = derive(page, elements[:10]) if len(elements) > 1 else []
        if derived:
            fields.append(FieldReader(name=field.name, ways=(Way(selector=derived[0].selector),)))
        else:
            fields.append(proposed.get(field.name, field))
    following = next(
        (proposal.settings.next for proposal in propose_lists(page)[:1] if proposal.settings.next), settings.next
    )
    return settings.model_copy(update={"fields": tuple(fields), "next": following if settings.next else ""})


def _holding(page: Page, name: str, values: set[str]) -> list[HtmlElement]:
    """Return the smallest elements that contain one of these values."""
    wanted = {_bare(value) for value in values}
    holders: list[HtmlElement] = []
    for element in page.body.iter():
        if not isinstance(element.tag, str):
            continue
        if name == "picture":
            holds = element.tag == "img" and page.resolve(element.get("src")) in values
        else:
            shown = _bare(text_in(element))
            holds = shown in wanted or (name == "date" and _same_day(element, values))
        if holds:
            inner = [held for held in holders if element not in set(held.iterdescendants())]
            holders = [held for held in inner if held not in set(element.iterancestors())]
            holders.append(element)
    return holders


def _same_day(element: HtmlElement, values: set[str]) -> bool:
    text = element.get("datetime") or text_in(element)
    if not text or len(text) > 60:  # noqa: PLR2004 - no date is longer
        return False
    day = read_date(text)
    return day is not None and any(day.date().isoformat() == value[:10] for value in values)


def mend_article(page: Page, settings: ArticlePage, article: Known) -> ArticlePage:
    """Return an article page whose fields have selectors for their known values.

    Others keep their ways.
    """
    fields: list[FieldReader] = []
    for field in settings.fields:
        element = _where(page, field.name, article.fields.get(field.name, ""))
        selected = any(way.kind is WayKind.SELECTOR for way in field.ways)
        derived = derive(page, [element], only=True) if selected and element is not None else []
        if derived:
            others = tuple(way for way in field.ways if way.kind is not WayKind.SELECTOR)
            fields.append(FieldReader(name=field.name, ways=(Way(selector=derived[0].selector), *others)[:5]))
        else:
            fields.append(field)
    return settings.model_copy(update={"fields": tuple(fields)})


def _where(page: Page, name: str, value: str) -> HtmlElement | None:
    if not value:
        return None
    if name == "text":
        main = main_element(page)
        mine, theirs = Counter(_bare(text_in(main)).split()), Counter(_bare(value).split())
        shared = sum((mine & theirs).values())
        return main if shared > 0.7 * sum(theirs.values()) else None
    holders = _holding(page, name, {value})
    return holders[0] if holders else None
