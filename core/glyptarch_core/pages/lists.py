"""The article list of a page: links of one kind that repeat, each in a block of its own.

It is found from its links: those in the same place of the tree form a group, each link has the largest block
that holds no other of its group, and a group is worth more the more its blocks look like teasers of articles.
"""

import math
import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from functools import cached_property
from itertools import islice, pairwise
from urllib.parse import urlsplit

from lxml.html import HtmlElement

from glyptarch_core.languages import alternatives
from glyptarch_core.languages.dates import find_date
from glyptarch_core.pages.lasting import classes_of
from glyptarch_core.pages.page import Page, beginning_of, length_of, text_in
from glyptarch_core.text.srcset import largest

__all__ = [
    "ListFound",
    "Teaser",
    "beside_of",
    "blocks_of",
    "date_element",
    "find_lists",
    "picture_address",
    "shows_date",
    "title_of_link",
]

_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_FEWEST = 2
_MOST_GROUPS = 400
_MOST_LISTS = 6
_OUTSIDE = frozenset({"nav", "footer", "aside", "header"})
_ASIDE_NAMES = re.compile(
    r"(?:^|[-_ ])(?:nav|navigation|menu|footer|sidebar|breadcrumbs?|tags?|tagcloud|related|share|sharing|social"
    r"|comments?|pagination"
    r"|pager|widget|promo|ads?|banner|toolbar|legal|popular|trending|most-?read|recommended|topics?|sections?"
    r"|toc)(?:$|[-_ ])",
    re.IGNORECASE,
)
_NO_ARTICLE = re.compile(
    r"/(?:tags?|categor(?:y|ies)|authors?|login|signin|register|account|search|about|contact|privacy|imprint"
    r"|terms|page|feed|rss)"
    r"(?:/|$|\?)|\.(?:jpe?g|png|gif|webp|pdf|zip|mp3|mp4)$",
    re.IGNORECASE,
)
_MORE = re.compile(rf"^(?:{alternatives('read_more')}|\W*)\W*$", re.IGNORECASE)
# Any day: only whether and where a text names a date is asked.
_SOME_DAY = datetime(2000, 1, 1, tzinfo=UTC)
_LONGEST_DATE = 60
_MOST_SHORT = 3000
"""The short elements that are looked at for a date; an article has its date near its beginning."""
_WHOLE = frozenset({"body", "html", "main"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Teaser:
    """One entry of a list: its block, the link to the article, its address and its title.

    ``beside`` are the elements beside the block that belong to it, where entries have no element of their own.
    """

    block: HtmlElement
    beside: tuple[HtmlElement, ...] = ()
    link: HtmlElement
    url: str
    title: str


@dataclass(frozen=True, kw_only=True)
class ListFound:
    """A list that a page may mean, with how much speaks for it."""

    teasers: tuple[Teaser, ...]
    score: float

    @cached_property
    def links(self) -> list[HtmlElement]:
        """The links to the articles."""
        return [teaser.link for teaser in self.teasers]


def find_lists(page: Page) -> list[ListFound]:
    """Return the likely lists of articles of a page, likeliest first, at most six."""
    titles: dict[HtmlElement, str] = {}
    found_lists = [judged for group in _groups(page) if (judged := _judged(page, group, titles)) is not None]
    found_lists.sort(key=lambda found_list: -found_list.score)
    kept: list[ListFound] = []
    for found_list in found_lists:
        urls = {teaser.url for teaser in found_list.teasers}
        # Picture, heading and “read on” link to the same articles, so the best group represents all.
        if not any(len(urls & {teaser.url for teaser in other.teasers}) > len(urls) * 0.5 for other in kept):
            kept.append(found_list)
    return kept[:_MOST_LISTS]


def _groups(page: Page) -> list[list[HtmlElement]]:
    """Return links grouped by position in the tree.

    One grouping is by tags, the other by tags with the nearest classes.
    """
    by_tags: dict[int, list[HtmlElement]] = defaultdict(list)
    by_names: dict[tuple[int, tuple[str, ...]], list[HtmlElement]] = defaultdict(list)
    # Siblings share their parent's way.
    lines: dict[HtmlElement, tuple[int, int]] = {}
    # Ways are numbered, so that long ones are compared once per parent.
    ways: dict[tuple[object, ...], int] = {}
    here = page.url.partition("#")[0]
    for link, url in page.addresses.items():
        if url == here or url.partition("#")[0] == here or link.get("href").startswith("#"):
            continue
        parent = link.getparent()
        above = lines.get(parent)
        if above is None:
            line = [parent, *parent.iterancestors()]
            tags = tuple(str(element.tag) for element in line)
            names = (tags, *(classes_of(element)[:2] for element in line[:3]))
            above = lines[parent] = (ways.setdefault(tags, len(ways)), ways.setdefault(names, len(ways)))
        by_tags[above[0]].append(link)
        by_names[above[1], classes_of(link)[:2]].append(link)
    groups = [*by_names.values(), *by_tags.values()]
    groups = [group for group in groups if len(group) >= _FEWEST]
    # On a page with many groups the larger ones come first.
    unique = {tuple(map(id, group)): group for group in sorted(groups, key=len, reverse=True)}
    return list(unique.values())[:_MOST_GROUPS]


def blocks_of(urls: Mapping[HtmlElement, str]) -> dict[HtmlElement, HtmlElement]:
    """Return the block of each link: the largest element whose links all lead to one article."""
    led: dict[HtmlElement, str] = {}
    shared: set[HtmlElement] = set()
    for link, url in urls.items():
        for ancestor in link.iterancestors():
            if ancestor in shared:
                # Every ancestor contains the same links.
                break
            if led.setdefault(ancestor, url) != url:
                shared.add(ancestor)
    return {link: _block(link, shared) for link in urls}


def _block(link: HtmlElement, shared: AbstractSet[HtmlElement]) -> HtmlElement:
    block = link
    for ancestor in link.iterancestors():
        if ancestor in shared or ancestor.tag in _WHOLE:
            break
        block = ancestor
    return block


_MOST_BESIDE = 6


def beside_of(blocks: Sequence[HtmlElement]) -> dict[HtmlElement, tuple[HtmlElement, ...]]:
    """Return the siblings that belong to each block of a list without elements for its entries.

    Between two headings stand a date and an excerpt, say. They follow their heading, unless the first one has the same
    elements before it.
    """
    parents = {block.getparent() for block in blocks}
    if len(blocks) < _FEWEST or len(parents) != 1 or None in parents:
        return {}
    (parent,) = parents
    children = [child for child in parent if isinstance(child.tag, str)]
    starts = [place for place, child in enumerate(children) if child in set(blocks)]
    gaps = [children[start + 1 : end] for start, end in pairwise(starts)]
    if not gaps or not all(0 < len(gap) <= _MOST_BESIDE for gap in gaps):
        return {}
    before = _before_first(children[: starts[0]], children[starts[-1] + 1 :], gaps[0])
    ends = [*starts[1:], starts[-1] + 1 + len(gaps[0])]
    return {
        children[start]: (*children[max(start - before, 0) : start], *children[start + 1 : end - before])
        for start, end in zip(starts, ends, strict=True)
    }


def _before_first(before: Sequence[HtmlElement], after: Sequence[HtmlElement], gap: Sequence[HtmlElement]) -> int:
    """Return how many elements of an entry stand before its heading."""

    def shapes(elements: Sequence[HtmlElement]) -> list[object]:
        return [(element.tag, classes_of(element)) for element in elements]

    most = next((n for n in range(len(gap), 0, -1) if shapes(before[-n:]) == shapes(gap[-n:])), 0)
    # The last entry has what follows its heading; where it has all of a gap, nothing stands before a heading.
    return 0 if shapes(after[: len(gap)]) == shapes(gap) else most


def title_of_link(link: HtmlElement) -> str:
    """Return the title of a link: its heading, its first text that is no date, or its picture's."""
    heading = next((element for element in link.iter(*_HEADINGS)), None) if len(link) else None
    text = text_in(heading) if heading is not None else _first_text(link)
    if not text:
        image = next(link.iter("img"), None)
        text = (image.get("alt") or "" if image is not None else link.get("title") or "").strip()
    return text


def _first_text(link: HtmlElement) -> str:
    """Return the first text of a link around a whole teaser, or all text of another one."""
    whole = text_in(link)
    parts = [text for element in link.iter() if not len(element) and (text := text_in(element))]
    if len(parts) < 2 or len(" ".join(parts)) < len(whole):  # noqa: PLR2004 - a link with one text
        return whole
    titles = (text for text in parts if length_of(text) >= _TITLE_WORDS and find_date(text, now=_SOME_DAY) is None)
    return next(titles, whole)


_TITLE_WORDS = 2


def _judged(page: Page, links: list[HtmlElement], titles: dict[HtmlElement, str]) -> ListFound | None:
    """Judge a group of links. ``titles`` caches titles, since a link may be in several groups."""
    blocks = blocks_of({link: page.addresses[link] for link in links})
    first: dict[str, Teaser] = {}
    for link, block in blocks.items():
        url = page.addresses[link].partition("#")[0]
        title = titles.get(link)
        if title is None:
            title = titles[link] = title_of_link(link)
        known_title = first.get(url)
        if known_title is None or len(title) > len(known_title.title):
            first[url] = Teaser(block=block, link=link, url=url, title=title)
    if len(first) < _FEWEST:
        return None
    beside = beside_of([teaser.block for teaser in first.values()])
    teasers = [replace(teaser, beside=beside.get(teaser.block, ())) for teaser in first.values()]
    score = _score(page, teasers)
    return ListFound(teasers=tuple(teasers), score=round(score, 3)) if score > 0 else None


def _share(values: Sequence[bool]) -> float:
    return sum(values) / len(values)


def _score(page: Page, teasers: Sequence[Teaser]) -> float:
    sample = teasers[:30]
    texts = [" ".join(map(text_in, (teaser.block, *teaser.beside))) for teaser in sample]
    words = [length_of(teaser.title) for teaser in sample]
    titled = _share([3 <= count <= 30 for count in words])  # noqa: PLR2004 - words of a title
    heading = _share([_in_heading(teaser.link) for teaser in sample])
    more = _share([length_of(text) > length_of(teaser.title) + 8 for text, teaser in zip(texts, sample, strict=True)])
    dated = _share([shows_date(teaser.block, text) for text, teaser in zip(texts, sample, strict=True)])
    pictured = _share([next(_images(teaser), None) is not None for teaser in sample])
    distinct = len({teaser.title for teaser in sample}) / len(sample)
    host = urlsplit(page.url).hostname
    at_home = _share([urlsplit(teaser.url).hostname == host for teaser in sample])
    elsewhere = _share([bool(_NO_ARTICLE.search(urlsplit(teaser.url).path)) for teaser in sample])
    idle = _share([bool(_MORE.match(teaser.title)) for teaser in sample])
    aside = _share([_stands_aside(teaser.link, page) for teaser in sample])
    nested = _share([length_of(text) > 1500 for text in texts])  # noqa: PLR2004 - words of a whole article
    worth = 0.15 + 1.4 * titled + 1.3 * heading + 1.2 * more + 1.0 * dated + 0.5 * pictured
    worth *= math.log2(len(teasers) + 1) ** 0.7
    worth *= (0.25 + 0.75 * distinct) * (0.3 + 0.7 * at_home) * (1 - 0.8 * elsewhere) * (1 - 0.85 * idle)
    return float(worth * (1 - 0.8 * aside) * (1 - 0.7 * nested))


def _images(teaser: Teaser) -> Iterator[HtmlElement]:
    return (image for part in (teaser.block, *teaser.beside) for image in part.iter("img"))


def _in_heading(link: HtmlElement) -> bool:
    if any(element.tag in _HEADINGS for element in link.iter(*_HEADINGS)):
        return True
    parents = link.iterancestors()
    return any(parent.tag in _HEADINGS for parent, _ in zip(parents, range(2), strict=False))


def _stands_aside(link: HtmlElement, page: Page) -> bool:
    """Whether a link is in navigation, footer or a list of tags."""
    for ancestor in link.iterancestors():
        if ancestor is page.body:
            return False
        if ancestor.tag in {"article", "main"}:
            # A header inside an article belongs to the article.
            return False
        if ancestor.tag in _OUTSIDE or ancestor.get("role") in {"navigation", "contentinfo", "complementary"}:
            return True
        named = f"{ancestor.get('class') or ''} {ancestor.get('id') or ''}"
        if len(named) > 1 and _ASIDE_NAMES.search(named):
            return True
    return False


def shows_date(block: HtmlElement, text: str) -> bool:
    """Whether a block shows a date."""
    return next(block.iter("time"), None) is not None or find_date(text, now=_SOME_DAY) is not None


def _short_elements(block: HtmlElement) -> Iterator[tuple[HtmlElement, str]]:
    for element in block.iter():
        if not isinstance(element.tag, str) or len(element) > 3:  # noqa: PLR2004 - a date has few parts
            continue
        text = beginning_of(element, _LONGEST_DATE)
        if text and len(text) <= _LONGEST_DATE:
            yield element, text


def date_element(block: HtmlElement, language: str = "", *, day_first: bool | None = None) -> HtmlElement | None:
    """Return the smallest element of a block that shows a date.

    ``day_first`` as in :func:`find_date`.
    """
    time_element = next(block.iter("time"), None)
    if time_element is not None:
        return time_element
    best: tuple[int, HtmlElement] | None = None
    for element, text in islice(_short_elements(block), _MOST_SHORT):
        date = find_date(text, language, now=_SOME_DAY, day_first=day_first)
        if date is None or element.tag in _HEADINGS or element.tag == "a":
            continue
        rest = len(text) - (date.end - date.start)
        if best is None or rest <= best[0]:
            best = (rest, element)
    return best[1] if best else None


def picture_address(image: HtmlElement) -> str:
    """Return the address of a picture, also of a lazily loaded one: the largest in ``srcset``."""
    for name in ("data-srcset", "srcset"):
        best = largest(image.get(name) or "")
        if best:
            return best
    for name in ("data-src", "data-original", "data-lazy-src", "src"):
        value = (image.get(name) or "").strip()
        if value and not value.startswith("data:"):
            return value
    return ""
