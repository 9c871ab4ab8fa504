"""An item of a feed completed from the page that it links to."""

from dataclasses import dataclass, replace

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Features, Item, features_of
from glyptarch_core.pages.article import extract
from glyptarch_core.pages.desk import RawPage
from glyptarch_core.pages.kinds import PageKind, kind_of_page
from glyptarch_core.readers.fitting import fit_item
from glyptarch_core.readers.model import pictures_in, unique_media
from glyptarch_core.text import count_words, plain_text

__all__ = ["Completed", "complete"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Completed:
    """An item after its page was asked: with the page's text and its features, or as it was."""

    item: Item
    features: Features | None


def complete(raw: RawPage, item: Item, more: int) -> Completed:
    """Give an item the text of its page, where that is an article with at least ``more`` words more than the feed's."""
    try:
        page = raw.load()
    except ParseError:
        return Completed(item=replace(item, page="unread"), features=None)
    article = extract(page)
    text = plain_text(article.html)
    kind = kind_of_page(page, text=text)
    if kind is not PageKind.ARTICLE:
        return Completed(item=replace(item, page=kind.value), features=None)
    if count_words(text) < count_words(plain_text(item.body or item.summary)) + more:
        return Completed(item=replace(item, page="shorter"), features=None)
    # A feed that gives two lines gives them as its text; beside the whole text they are the summary.
    summary = item.summary or item.body
    media = unique_media((*item.media, *pictures_in(article.html)))
    made, _ = fit_item(replace(item, body=article.html, summary=summary, media=media, page="taken"), 1)
    return Completed(item=made, features=features_of(made))
