"""An item of a feed completed from the page that it links to."""

from collections.abc import Collection
from dataclasses import dataclass, replace
from datetime import datetime

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Features, Item, features_of
from glyptarch_core.pages.article import extract
from glyptarch_core.pages.carried import article_in_data
from glyptarch_core.pages.desk import RawPage
from glyptarch_core.pages.document import ArticlePage, FieldReader, Take, Way
from glyptarch_core.pages.kinds import PageKind, kind_of_page
from glyptarch_core.pages.oembed import oembed_link
from glyptarch_core.pages.page import Page
from glyptarch_core.pages.reading import read_article
from glyptarch_core.pages.site import without_repeated
from glyptarch_core.readers.decode import decode
from glyptarch_core.readers.fitting import fit_item
from glyptarch_core.readers.model import pictures_in, unique_media
from glyptarch_core.text import count_words, plain_text, sanitise
from glyptarch_core.text.captions import captions_as_html

__all__ = ["Completed", "complete", "text_at"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Completed:
    """An item after its page was fetched: with the page's text and its features, or unchanged.

    ``oembed`` is the address that the page names for embedding (oEmbed).
    """

    item: Item
    features: Features | None
    oembed: str = ""


def text_at(selector: str) -> ArticlePage:
    """Return settings that take the text of a page by a selector.

    Raises ValueError for a bad selector.
    """
    return ArticlePage(fields=(FieldReader(name="text", ways=(Way(selector=selector, take=Take.HTML),)),))


def complete(
    raw: RawPage, item: Item, more: int, settings: ArticlePage | None, now: datetime, repeated: Collection[str] = ()
) -> Completed:
    """Return an item with the text of its page, where that text is longer.

    It must have at least ``more`` words more than the feed's. ``settings`` say where the text is; without them the main
    text is found by structure. ``repeated`` is what the site repeats, see :func:`read_article`. For an episode with a
    transcript, the transcript was fetched, and its text is added below the feed's.
    """
    if item.facts.get("transcript"):
        return _with_transcript(raw, item)
    try:
        page = raw.load()
    except ParseError:
        return Completed(item=replace(item, page="unread"), features=None)
    # Reading the article may remove elements, so this comes first.
    oembed = oembed_link(page)
    kind, markup = _text_of(page, settings, now, repeated)
    if kind is not PageKind.ARTICLE:
        return Completed(item=replace(item, page=kind.value), features=None, oembed=oembed)
    if not markup:
        return Completed(item=replace(item, page="not_found"), features=None, oembed=oembed)
    if count_words(plain_text(markup)) < count_words(plain_text(item.body or item.summary)) + more:
        return Completed(item=replace(item, page="shorter"), features=None, oembed=oembed)
    # A two-line feed has its lines as text; beside the full text they become the summary.
    summary = item.summary or item.body
    media = unique_media((*item.media, *pictures_in(markup)))
    completed, _ = fit_item(replace(item, body=markup, summary=summary, media=media, page="taken"), 1)
    return Completed(item=completed, features=features_of(completed), oembed=oembed)


def _with_transcript(raw: RawPage, item: Item) -> Completed:
    """Return an episode with the text of its transcript (WebVTT, SubRip or HTML) below its own."""
    text = decode(raw.body, raw.content_type).text
    said = captions_as_html(text)
    if not said and "html" in raw.content_type:
        said = sanitise(text)
    if not said:
        return Completed(item=replace(item, page="unread"), features=None)
    completed, _ = fit_item(replace(item, body=(item.body or item.summary) + said, page="taken"), 1)
    return Completed(item=completed, features=features_of(completed))


def _text_of(
    page: Page, settings: ArticlePage | None, now: datetime, repeated: Collection[str]
) -> tuple[PageKind, str]:
    """Return the kind of a page and the markup of its text."""
    if settings is None:
        page = without_repeated(page, repeated).page
        markup = extract(page).html
        kind = kind_of_page(page, text=plain_text(markup))
        if kind is PageKind.SCRIPTED and (carried := article_in_data(page)):
            return PageKind.ARTICLE, carried["text"]
        return kind, markup
    read = read_article(page, settings, now=now, repeated=repeated)
    return read.kind, read.fields.get("text", "")
