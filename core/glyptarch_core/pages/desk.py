"""Answers about one page in plain values, so that another process can compute them."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial

from lxml.html import HtmlElement

from glyptarch_core.errors import ParseError, SelectorError
from glyptarch_core.item import Features, Item, features_of
from glyptarch_core.pages.article import extract
from glyptarch_core.pages.derive import derive
from glyptarch_core.pages.document import ArticlePage, ListPage, ReaderDocument, Section, WayKind
from glyptarch_core.pages.drift import Known, Mend, mend_article, mend_list
from glyptarch_core.pages.frame import framed
from glyptarch_core.pages.kinds import PageKind, kind_of_page
from glyptarch_core.pages.page import Page, load_page, text_in
from glyptarch_core.pages.propose import ListProposal, propose_lists, sections_of
from glyptarch_core.pages.reading import ArticleRead, Entry, ListRead, item_of, read_article, read_list
from glyptarch_core.pages.selector import compile_selector
from glyptarch_core.pages.site import PagePrint, print_of
from glyptarch_core.pages.sitemap import is_sitemap, read_sitemap
from glyptarch_core.readers.discover import FeedLink, discover_feeds
from glyptarch_core.readers.fitting import fit_item
from glyptarch_core.readers.model import resolve
from glyptarch_core.text import count_words, plain_text
from glyptarch_core.text.style_sheets import safe_style_sheet

__all__ = [
    "ArticleItem",
    "Looked",
    "Marks",
    "Pointed",
    "RawPage",
    "article_item",
    "article_of",
    "css_of",
    "frame_of",
    "list_of",
    "look_at",
    "marks_of",
    "mended",
    "point",
    "print_of_page",
]


@dataclass(frozen=True, slots=True, kw_only=True)
class RawPage:
    """The bytes of a page, with the address, the type and the time they came with."""

    body: bytes
    url: str
    content_type: str = ""
    at: datetime | None = None

    def load(self) -> Page:
        """Parse the page. Raises ParseError."""
        return load_page(self.body, url=self.url, content_type=self.content_type, at=self.at)


@dataclass(frozen=True, slots=True, kw_only=True)
class Looked:
    """A first look at a page: likely lists, sections, named feeds, and the likely article."""

    title: str
    kind: PageKind
    lists: tuple[ListProposal, ...]
    sections: tuple[Section, ...]
    feeds: tuple[FeedLink, ...]
    words: int


def look_at(raw: RawPage) -> Looked:
    """Look at a page. Raises ParseError."""
    if is_sitemap(raw.body):
        return Looked(title="Sitemap", kind=PageKind.SITEMAP, lists=(), sections=(), feeds=(), words=0)
    page = raw.load()
    article = extract(page)
    text = plain_text(article.html)
    kind = kind_of_page(page, text=text)
    lists = propose_lists(page)
    if kind is PageKind.SCRIPTED:
        # The visible links are the site's frame and no list of articles.
        lists = [list_ for list_ in lists if list_.settings.data is not None]
    return Looked(
        title=article.title,
        kind=kind,
        lists=tuple(lists),
        sections=sections_of(page),
        feeds=discover_feeds(raw.body, raw.url),
        words=count_words(text),
    )


def frame_of(raw: RawPage) -> tuple[str, tuple[str, ...]]:
    """Return a page for the frame, and its addresses to be served, as ``/asset-N-`` in the text."""
    addresses: dict[str, int] = {}

    def served(address: str) -> str:
        return f"/asset-{addresses.setdefault(address, len(addresses))}-"

    return framed(raw.load(), served), tuple(addresses)


def css_of(css: str, url: str) -> tuple[str, tuple[str, ...]]:
    """Return a style sheet for the frame and its addresses, as :func:`frame_of` does."""
    addresses: dict[str, int] = {}

    def served(address: str) -> str:
        return f"/asset-{addresses.setdefault(address, len(addresses))}-"

    return safe_style_sheet(css, partial(resolve, url), served), tuple(addresses)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pointed:
    """A selector made from examples, with the numbers and sample texts of its matches."""

    selector: str
    places: tuple[int, ...]
    samples: tuple[str, ...]
    exact: bool


_SAMPLES = 5


def _samples(elements: Sequence[HtmlElement]) -> tuple[str, ...]:
    return tuple(
        (text_in(element) or element.get("src") or element.get("href") or str(element.tag))[:120]
        for element in elements[:_SAMPLES]
    )


def point(raw: RawPage, examples: Sequence[int], without: Sequence[int], *, only: bool) -> tuple[Pointed, ...]:
    """Return selectors for the elements of these numbers. Raises ParseError."""
    page = raw.load()
    elements = list(page.places)
    chosen = [elements[place] for place in examples if 0 <= place < len(elements)]
    refused = [elements[place] for place in without if 0 <= place < len(elements)]
    return tuple(
        Pointed(
            selector=derived.selector,
            places=tuple(page.places[match] for match in derived.matches),
            samples=_samples(derived.matches),
            exact=derived.exact,
        )
        for derived in derive(page, chosen, without=refused, only=only)
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Marks:
    """The matches of a selector in a page.

    ``error`` and ``at`` (a character, from 1) say what is wrong.
    """

    places: tuple[int, ...] = ()
    samples: tuple[str, ...] = ()
    error: str = ""
    at: int = 0


def marks_of(raw: RawPage, selector: str) -> Marks:
    """Return the matches of a selector. Raises ParseError for the page, never for the selector."""
    page = raw.load()
    try:
        elements = compile_selector(selector)(page.root)
    except SelectorError as error:
        return Marks(error=str(error), at=error.place)
    return Marks(places=tuple(page.places[element] for element in elements), samples=_samples(elements))


def _mapped(raw: RawPage) -> ListRead:
    """Read a sitemap as a list. An index gives the newest sitemap in it as its next page."""
    sitemap = read_sitemap(raw.body, url=raw.url)
    if sitemap.is_index:
        newest = sitemap.entries[0].url if sitemap.entries else ""
        return ListRead(entries=(), next_url=newest, counts={"link": 0}, is_index=True)
    entries = tuple(Entry(url=entry.url, title=entry.title, date=entry.at) for entry in sitemap.entries)
    return ListRead(entries=entries, next_url="", counts={"link": len(entries)})


def list_of(raw: RawPage, settings: ListPage) -> ListRead | tuple[str, str]:
    """Read a list page or a sitemap.

    An error is returned as its code and message.
    """
    try:
        if is_sitemap(raw.body):
            return _mapped(raw)
        return read_list(raw.load(), settings)
    except ParseError as error:
        return error.code, str(error)


def article_of(
    raw: RawPage, settings: ArticlePage, now: datetime, repeated: Collection[str] = ()
) -> ArticleRead | tuple[str, str]:
    """Read an article page. ``repeated`` is what its site repeats, see :func:`read_article`.

    An error is returned as its code and message.
    """
    try:
        return read_article(raw.load(), settings, now=now, repeated=repeated)
    except ParseError as error:
        return error.code, str(error)


def print_of_page(raw: RawPage) -> PagePrint | None:
    """Return the print of a page for the memory of its site. None where it cannot be parsed."""
    try:
        return print_of(raw.load())
    except ParseError:
        return None


@dataclass(frozen=True, slots=True, kw_only=True)
class ArticleItem:
    """An item made from the pages of an article, with its features and the fields read."""

    item: Item
    features: Features
    read: ArticleRead


def article_item(
    read: ArticleRead, source: str, entry: Entry | None, category: str, parts: Sequence[str]
) -> ArticleItem:
    """Return the item of an article with its features."""
    item, _ = fit_item(item_of(read, source=source, entry=entry, category=category, parts=parts), 1)
    return ArticleItem(item=item, features=features_of(item), read=read)


def mended(
    list_page: RawPage | None, article_page: RawPage | None, document: ReaderDocument, articles: Sequence[Known]
) -> tuple[ReaderDocument, Mend | None]:
    """Return a document whose selectors fit the pages as they are now. Raises ParseError."""
    changed_document, mend = document, None
    if list_page is not None:
        mend = mend_list(list_page.load(), document.list_page, articles)
        if mend is not None:
            changed_document = changed_document.model_copy(update={"list_page": mend.settings})
    if article_page is not None and _has_selectors(document.article):
        page = article_page.load()
        shown = next((article for article in articles if article.url == article_page.url), None)
        if shown is not None:
            changed_document = changed_document.model_copy(
                update={"article": mend_article(page, document.article, shown)}
            )
    return changed_document, mend


def _has_selectors(article: ArticlePage) -> bool:
    return any(way.kind is WayKind.SELECTOR for field in article.fields for way in field.ways)
