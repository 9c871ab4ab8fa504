"""Reading pages by a document: list entries, article fields, and the resulting item."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime

from lxml.html import HtmlElement

from glyptarch_core.item import Item, Media, MediaKind, MediaOrigin, Review
from glyptarch_core.languages.dates import day_comes_first
from glyptarch_core.pages.article import Article, extract
from glyptarch_core.pages.byline import author_name
from glyptarch_core.pages.carried import article_in_data, entries_in_data
from glyptarch_core.pages.days import read_date
from glyptarch_core.pages.document import (
    ArticlePage,
    DataList,
    FieldReader,
    ListPage,
    Take,
    Way,
    WayKind,
    compile_pattern,
)
from glyptarch_core.pages.kinds import PageKind, kind_of_page
from glyptarch_core.pages.lists import beside_of, blocks_of, picture_address, title_of_link
from glyptarch_core.pages.main_text import text_html
from glyptarch_core.pages.page import Page, text_in
from glyptarch_core.pages.selector import compile_selector
from glyptarch_core.pages.site import Repeated, without_repeated
from glyptarch_core.pages.structured import goods_stated_by, stated_by
from glyptarch_core.readers.model import pictures_in, stated, unique_media
from glyptarch_core.text import absolute, canonical_link, count_words, plain_text, sanitise
from glyptarch_core.text.prices import currency_in

__all__ = ["ArticleRead", "Entry", "ListRead", "item_of", "read_article", "read_list"]

_MOST_ENTRIES = 500


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """The fields of one article on a list page."""

    url: str
    title: str = ""
    date: datetime | None = None
    picture: str = ""
    price: str = ""
    excerpt: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ListRead:
    """A read list: its entries, the next page, and the number of matches of each selector.

    ``is_index`` marks an index of sitemaps, which lists no articles itself.
    """

    entries: tuple[Entry, ...]
    next_url: str
    counts: Mapping[str, int]
    is_index: bool = False


def _address(element: HtmlElement) -> str:
    own = element.get("href")
    if own:
        return str(own)
    inside = next((element for element in element.iter("a") if element.get("href")), None)
    if inside is not None:
        return str(inside.get("href"))
    around = next((ancestor for ancestor in element.iterancestors("a") if ancestor.get("href")), None)
    return str(around.get("href")) if around is not None else ""


def read_list(page: Page, settings: ListPage) -> ListRead:
    """Read a list page. Fields are paired with links by the block that they share."""
    if settings.data is not None:
        return _listed_in_data(page, settings, settings.data)
    links = compile_selector(settings.link)(page.root)[:_MOST_ENTRIES] if settings.link else []
    urls = {link: page.resolve(_address(link)).partition("#")[0] for link in links}
    links = [link for link in links if urls[link]]
    blocks = _blocks(links, urls)
    beside = {field.name: _values_beside(page, field, blocks) for field in settings.fields}
    day_first = day_comes_first(beside.get("date", {}).values())
    entries: dict[str, Entry] = {}
    for link in links:
        url = urls[link]
        fields = {name: values.get(url, "") for name, values in beside.items()}
        date = fields.get("date", "")
        entries.setdefault(
            url,
            Entry(
                url=url,
                title=(fields.get("title") or title_of_link(link))[:500],
                date=read_date(date, page.language, now=page.at, day_first=day_first) if date else None,
                picture=page.resolve(fields.get("picture", "")),
                price=fields.get("price", "")[:100],
                excerpt=fields.get("excerpt", "")[:5000],
            ),
        )
    counts = {"link": len(entries), **{name: len(values) for name, values in beside.items()}}
    return _with_next(page, settings, entries, counts)


def _with_next(page: Page, settings: ListPage, entries: Mapping[str, Entry], counts: dict[str, int]) -> ListRead:
    following = compile_selector(settings.next)(page.root) if settings.next else []
    next_url = next((full for link in following if (full := page.resolve(_address(link)))), "")
    if settings.next:
        counts["next"] = len(following)
    return ListRead(entries=tuple(entries.values()), next_url=next_url, counts=counts)


def _listed_in_data(page: Page, settings: ListPage, where: DataList) -> ListRead:
    """Read a list from the data of a page."""
    entries: dict[str, Entry] = {}
    for listed in entries_in_data(page, where):
        entries.setdefault(
            listed.url,
            Entry(
                url=listed.url,
                title=listed.title[:500],
                date=read_date(listed.date, page.language, now=page.at) if listed.date else None,
                picture=listed.picture,
                excerpt=listed.excerpt[:5000],
            ),
        )
    counts = {"link": len(entries), "date": sum(entry.date is not None for entry in entries.values())}
    counts["picture"] = sum(bool(entry.picture) for entry in entries.values())
    return _with_next(page, settings, entries, counts)


def _blocks(links: Sequence[HtmlElement], urls: Mapping[HtmlElement, str]) -> dict[HtmlElement, str]:
    """Return the address that each block leads to, and each element beside one."""
    blocks = {block: urls[link] for link, block in blocks_of({link: urls[link] for link in links}).items()}
    beside = beside_of(list(blocks))
    return blocks | {part: blocks[block] for block, parts in beside.items() for part in parts}


def _values_beside(page: Page, reader: FieldReader, blocks: Mapping[HtmlElement, str]) -> dict[str, str]:
    """Return the values of a field by the address of the article in the same block."""
    values: dict[str, str] = {}
    for way in reader.ways:
        if way.kind is not WayKind.SELECTOR:
            continue
        for element in compile_selector(way.selector)(page.root):
            block = next((ancestor for ancestor in [element, *element.iterancestors()] if ancestor in blocks), None)
            value = _value(page, element, way, reader.name)
            if block is None or not value:
                continue
            known = values.setdefault(blocks[block], value)
            # A selector for paragraphs may find the date as well.
            if reader.name == "excerpt" and len(value) > len(known):
                values[blocks[block]] = value
    return values


def _value(page: Page, element: HtmlElement, way: Way, name: str) -> str:
    """Return the part of an element that a way takes, after its pattern."""
    if way.take is Take.HTML or (name == "text" and way.take is Take.TEXT):
        return text_html(page, element)
    if way.take is Take.ATTRIBUTE:
        value = " ".join((element.get(way.attribute) or "").split())
    elif name == "picture":
        image = element if element.tag == "img" else next(element.iter("img"), None)
        value = picture_address(image) if image is not None else ""
    elif name == "date":
        value = element.get("datetime") or element.get("content") or text_in(element)
    else:
        value = text_in(element)
    return _patterned(way, name, value)


def _patterned(way: Way, name: str, value: str) -> str:
    """Return a value after a way's pattern.

    A date in the way's format becomes ISO 8601.
    """
    kept = _kept_by(way.pattern, value)
    if name != "date" or not way.format or not kept:
        return kept
    try:
        return datetime.strptime(kept, way.format).replace(tzinfo=UTC).isoformat()
    except ValueError:
        return ""


def _kept_by(pattern: str, value: str) -> str:
    if not pattern:
        return value
    match = compile_pattern(pattern).search(value)
    if match is None:
        return ""
    return str((match[1] if match.groups() else match[0]) or "")


@dataclass(frozen=True, slots=True, kw_only=True)
class ArticleRead:
    """A read article: its fields as text, and the way that found each.

    The body is sanitised HTML. ``odd`` names fields that look wrong, with the reason. ``repeated`` are the parts that
    other articles of the site have as well; they are left out of the body, unless they are kept.
    """

    url: str
    kind: PageKind
    fields: Mapping[str, str]
    ways: Mapping[str, str]
    picture: str = ""
    date: datetime | None = None
    language: str = ""
    next_part: str = ""
    odd: Mapping[str, str] = field(default_factory=dict)
    features: tuple[str, ...] = ()
    reviews: tuple[Review, ...] = ()
    repeated: tuple[Repeated, ...] = ()

    @property
    def words(self) -> int:
        """Words of the text."""
        return count_words(plain_text(self.fields.get("text", "")))


def _article_value(article: Article, name: str) -> str:
    values = {
        "title": article.title,
        "text": article.html,
        "date": article.date.isoformat() if article.date else "",
        "author": article.author,
        "picture": article.picture,
        "tags": ", ".join(article.tags),
        "description": article.description,
    }
    return values.get(name, "")


def read_article(
    page: Page, settings: ArticlePage, *, now: datetime | None = None, repeated: Collection[str] = ()
) -> ArticleRead:
    """Read an article page.

    The ways of a field are tried in order until one finds a value. ``repeated`` are the keys of texts that other
    articles of the site have as well; they are left out, unless the settings keep them.
    """
    if page.at is None and now is not None:
        # Dates without a year, and “3 hours ago”, count from the reading.
        page = replace(page, at=now)
    page = page.without([element for selector in settings.remove for element in compile_selector(selector)(page.root)])
    bared = without_repeated(page, repeated, settings.keep)
    page = bared.page
    said, article = stated_by(page), extract(page)
    fields: dict[str, str] = {}
    ways: dict[str, str] = {}
    for reader in settings.fields:
        for way in reader.ways:
            value = _by_way(page, reader.name, way, said, article)
            if value:
                fields[reader.name], ways[reader.name] = value, _way_words(way)
                break
    if fields.get("text") and bared.boxes:
        fields["text"] += "".join(text_html(page, box) for box in bared.boxes)
    offer, found_by = _offer_of(said, article)
    ways |= dict.fromkeys(offer.keys() - fields.keys(), found_by.value)
    fields = offer | fields
    kind = kind_of_page(page, text=plain_text(fields.get("text", "")), free=said.get("free", ""))
    if kind is PageKind.SCRIPTED and (carried := article_in_data(page)):
        kind = PageKind.ARTICLE
        names = {field.name for field in settings.fields} & carried.keys()
        fields |= {name: carried[name] for name in names}
        ways |= dict.fromkeys(names, "carried")
    text = plain_text(fields.get("text", ""))
    date = read_date(fields.get("date", ""), article.language or page.language, now=now)
    following = compile_selector(settings.next_part)(page.root) if settings.next_part else []
    features, reviews = goods_stated_by(page) if said.get("price") else ((), ())
    return ArticleRead(
        url=page.url,
        kind=kind,
        fields=fields,
        ways=ways,
        picture=page.resolve(fields.get("picture", "")),
        date=date,
        language=article.language,
        next_part=next((full for link in following if (full := page.resolve(_address(link)))), ""),
        odd=_odd(text, date, now),
        features=features,
        reviews=reviews,
        repeated=bared.parts,
    )


def _offer_of(said: Mapping[str, str], article: Article) -> tuple[dict[str, str], WayKind]:
    """Return what a page tells of the thing that it sells, and how."""
    if said.get("price"):
        # A page with an offer states the values that a shop's API would have.
        return {name: said[name] for name in _OFFER if said.get(name)}, WayKind.STATED
    if article.price:
        return {"price": article.price, "currency": currency_in(article.price)}, WayKind.FOUND
    return {}, WayKind.FOUND


_OFFER = (
    "price",
    "currency",
    "price_until",
    "availability",
    "condition",
    "sku",
    "rating",
    "rating_count",
    "replaced_by",
)


def _way_words(way: Way) -> str:
    return way.selector if way.kind is WayKind.SELECTOR else way.kind.value


def _by_way(page: Page, name: str, way: Way, said: Mapping[str, str], article: Article) -> str:
    if way.kind is WayKind.STATED:
        # Pages state a description, never the text of the article.
        return _patterned(way, name, said.get(name, "")) if name != "text" else ""
    if way.kind is WayKind.FOUND:
        return _kept_by(way.pattern, _article_value(article, name))
    elements = compile_selector(way.selector)(page.root)
    if name == "text":
        return "".join(_value(page, element, way, name) for element in _outermost(elements))
    if name in {"tags", "author"}:
        values = [value for element in elements[:30] if (value := _value(page, element, way, name))]
        # A picked byline has “by” before the name and often the date after it.
        if name == "author" and not way.pattern:
            values = [author_name(value, page.language) or value for value in values]
        return ", ".join(dict.fromkeys(values))
    return next((value for element in elements if (value := _value(page, element, way, name))), "")


def _outermost(elements: Sequence[HtmlElement]) -> list[HtmlElement]:
    chosen = set(elements)
    return [element for element in elements if chosen.isdisjoint(element.iterancestors())]


_FEW_WORDS = 40


def _odd(text: str, date: datetime | None, now: datetime | None) -> dict[str, str]:
    odd: dict[str, str] = {}
    if text and count_words(text) < _FEW_WORDS:
        odd["text"] = "short"
    if date is not None and now is not None and date > now:
        odd["date"] = "future"
    return odd


def item_of(
    read: ArticleRead, *, source: str, entry: Entry | None = None, category: str = "", parts: Sequence[str] = ()
) -> Item:
    """Return the item of an article and its list entry.

    ``parts`` are the texts of further pages. Its identity is its canonical link, so that an article in two sections is
    one item.
    """
    fields = read.fields
    url = entry.url if entry else read.url
    body = fields.get("text", "") + "".join(parts)
    lead = read.picture or (entry.picture if entry else "")
    media = [Media(url=lead, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED)] if lead else []
    tags = [tag.strip() for tag in fields.get("tags", "").split(",") if tag.strip()]
    own = {name: value for name, value in fields.items() if name not in _KNOWN}
    price = fields.get("price") or (entry.price if entry else "")
    if price:
        own["read_from"] = "its pages"
    summary = fields.get("description") or (entry.excerpt if entry else "")
    return Item(
        source=source,
        identity=canonical_link(url) or url,
        link=url,
        title=(fields.get("title") or (entry.title if entry else ""))[:1000],
        summary=sanitise(summary) if "<" in summary else summary,
        body=absolute(body, read.url),
        authors=tuple(name.strip() for name in fields.get("author", "").split(",") if name.strip())[:10],
        categories=tuple(dict.fromkeys([*([category] if category else []), *tags]))[:50],
        published=read.date or (entry.date if entry else None),
        media=unique_media([*media, *pictures_in(body)]),
        language=read.language,
        facts=stated(price=price, **own),
        raw={
            "fields": dict(fields),
            "ways": dict(read.ways),
            "left_out": [part.text for part in read.repeated if not part.kept],
        },
        features=read.features,
        reviews=read.reviews,
    )


_KNOWN = frozenset({"title", "text", "date", "author", "picture", "tags", "description", "price"})
