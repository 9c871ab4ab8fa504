"""Data that a page states for machines: linked data (JSON-LD), microdata and meta elements."""

from collections.abc import Iterator, Mapping
from typing import Any

from lxml.html import HtmlElement

from glyptarch_core.item import Review
from glyptarch_core.pages.page import Page, text_in
from glyptarch_core.readers.page import linked_data, metas_of

__all__ = ["goods_stated_by", "stated_by"]

_ARTICLES = frozenset(
    "Article NewsArticle BlogPosting ReportageNewsArticle AnalysisNewsArticle OpinionNewsArticle TechArticle "
    "ScholarlyArticle SocialMediaPosting LiveBlogPosting Report Review Recipe Product VideoObject Event WebPage".split()
)
_DEEPEST = 6
_MOST_NODES = 500


def stated_by(page: Page) -> dict[str, str]:
    """Return the fields that a page states, by name (``title``, ``date``, ``author``, …)."""
    stated: dict[str, str] = {}
    for fields in (_from_linked_data(page), _from_microdata(page), _from_metas(page)):
        for name, value in fields:
            text = " ".join(value.split())[:2000]
            if text:
                stated.setdefault(name, text)
    if "picture" in stated:
        stated["picture"] = page.resolve(stated["picture"])
    return {name: value for name, value in stated.items() if value}


def _nodes(data: Any, depth: int = 0) -> Iterator[dict[str, Any]]:  # noqa: ANN401 - whatever a page states
    if depth > _DEEPEST:
        return
    for value in data if isinstance(data, list) else [data]:
        if isinstance(value, dict):
            yield value
            for part in ("@graph", "mainEntity", "mainEntityOfPage"):
                if isinstance(value.get(part), dict | list):
                    yield from _nodes(value[part], depth + 1)


def _types(node: Mapping[str, Any]) -> set[str]:
    kind = node.get("@type")
    return {str(kind_name) for kind_name in (kind if isinstance(kind, list) else [kind])}


def _text(value: Any) -> str:  # noqa: ANN401
    if isinstance(value, list):
        return ", ".join(text for part in value[:10] if (text := _text(part)))
    if isinstance(value, dict):
        return _text(value.get("name") or value.get("@value") or value.get("url") or "")
    return str(value) if isinstance(value, str | int | float) and not isinstance(value, bool) else ""


def _address(value: Any) -> str:  # noqa: ANN401
    first_value = value[0] if isinstance(value, list) and value else value
    return (
        _text(first_value.get("url") or first_value.get("contentUrl") or "")
        if isinstance(first_value, dict)
        else _text(first_value)
    )


def _from_linked_data(page: Page) -> Iterator[tuple[str, str]]:
    nodes = [node for data in linked_data(page.root) for node in _nodes(data)][:_MOST_NODES]
    articles = [node for node in nodes if _types(node) & _ARTICLES]
    articles.sort(key=lambda node: "WebPage" in _types(node))
    for node in articles:
        yield "title", _text(node.get("headline") or node.get("name") or "")
        yield "date", _text(node.get("datePublished") or node.get("dateCreated") or node.get("uploadDate") or "")
        yield "updated", _text(node.get("dateModified") or "")
        yield "author", _text(node.get("author") or node.get("creator") or "")
        yield "picture", _address(node.get("image") or node.get("thumbnailUrl") or "")
        yield "tags", _text(node.get("keywords") or "")
        yield "description", _text(node.get("description") or "")
        yield "language", _text(node.get("inLanguage") or "")
        yield "section", _text(node.get("articleSection") or "")
        free = node.get("isAccessibleForFree")
        if free is not None:
            yield "free", str(free).lower()
        yield from _from_offer(node)


def _from_offer(node: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    offers = node.get("offers")
    offer = offers[0] if isinstance(offers, list) and offers else offers
    if isinstance(offer, dict):
        yield "price", _price_of(offer)
        yield "currency", _text(offer.get("priceCurrency") or "")
        yield "availability", _text(offer.get("availability") or "").rpartition("/")[2]
        yield "price_until", _text(offer.get("priceValidUntil") or "")
        yield "condition", _text(offer.get("itemCondition") or "").rpartition("/")[2]
        yield "sku", _text(node.get("sku") or offer.get("sku") or "")
        yield "replaced_by", _number_in(node.get("predecessorOf"))
    rating = node.get("aggregateRating")
    if isinstance(rating, dict):
        yield "rating", _text(rating.get("ratingValue") or "")
        yield "rating_count", _text(rating.get("ratingCount") or rating.get("reviewCount") or "")


def _number_in(product: Any) -> str:  # noqa: ANN401
    """Return the number of the product that takes a product's place (``predecessorOf``)."""
    return _text(product.get("sku") or product.get("productID") or "") if isinstance(product, dict) else ""


def goods_stated_by(page: Page) -> tuple[tuple[str, ...], tuple[Review, ...]]:
    """Return features and reviews of the product that a page states (``schema.org/Product``)."""
    nodes = (node for data in linked_data(page.root) for node in _nodes(data))
    product = next((node for node in nodes if "Product" in _types(node)), {})
    features = [
        ": ".join(text for text in (_text(row.get("name") or ""), _text(row.get("value") or "")) if text)
        for row in _rows(product.get("additionalProperty"))
    ]
    reviews = [
        Review(
            text=_text(row.get("reviewBody") or row.get("description") or ""),
            by=_text(row.get("author") or ""),
            stars=_stars(row.get("reviewRating")),
        )
        for row in _rows(product.get("review"))
    ]
    return tuple(text for text in features if text), tuple(review for review in reviews if review.text)


_MOST_ROWS = 50


def _rows(value: Any) -> list[dict[str, Any]]:  # noqa: ANN401
    rows = value if isinstance(value, list) else [value]
    return [row for row in rows[:_MOST_ROWS] if isinstance(row, dict)]


def _stars(rating: Any) -> float | None:  # noqa: ANN401
    """Return the value of a rating. None where its best is not five."""
    if not isinstance(rating, dict) or _text(rating.get("bestRating") or "5") not in {"5", "5.0"}:
        return None
    try:
        return float(_text(rating.get("ratingValue") or ""))
    except ValueError:
        return None


def _price_of(offer: Mapping[str, Any]) -> str:
    """Return the price of an offer.

    One of several prices (``AggregateOffer``) is written as the range that it is.
    """
    low, high = _text(offer.get("lowPrice") or ""), _text(offer.get("highPrice") or "")
    return _text(offer.get("price") or "") or (low if low == high else f"{low}–{high}")


_PROPERTIES = {
    "headline": "title",
    "datePublished": "date",
    "dateModified": "updated",
    "author": "author",
    "image": "picture",
    "keywords": "tags",
    "price": "price",
    "priceCurrency": "currency",
}


def _value(element: HtmlElement) -> str:
    """Return the value of a microdata property (HTML 5.2.4)."""
    for name in ("content", "datetime"):
        if element.get(name):
            return str(element.get(name))
    for name in ("src", "href"):
        if element.tag in {"img", "link", "source"} and element.get(name):
            return str(element.get(name))
    inner = next(
        (
            inner_element
            for inner_element in element.iter()
            if inner_element is not element and inner_element.get("itemprop") == "name"
        ),
        None,
    )
    return text_in(element if inner is None else inner)


def _from_microdata(page: Page) -> Iterator[tuple[str, str]]:
    for element in page.root.xpath("//*[@itemprop]")[:_MOST_NODES]:
        for name in (element.get("itemprop") or "").split():
            if name in _PROPERTIES:
                yield _PROPERTIES[name], _value(element)


_METAS = (
    ("title", ("og:title", "twitter:title", "dc.title", "citation_title")),
    ("date", ("article:published_time", "og:article:published_time", "datepublished", "pubdate", "publishdate")),
    ("date", ("dc.date", "dc.date.issued", "dcterms.created", "date", "citation_publication_date", "parsely-pub-date")),
    ("updated", ("article:modified_time", "og:updated_time", "lastmod", "datemodified")),
    ("author", ("author", "article:author", "dc.creator", "citation_author", "parsely-author", "byl")),
    ("picture", ("og:image:secure_url", "og:image", "twitter:image", "image")),
    ("tags", ("keywords", "news_keywords", "article:tag", "parsely-tags")),
    ("description", ("og:description", "description", "twitter:description", "dc.description")),
    ("section", ("article:section",)),
    ("site", ("og:site_name", "application-name")),
    ("price", ("product:price:amount", "og:price:amount")),
    ("currency", ("product:price:currency", "og:price:currency")),
)


def _from_metas(page: Page) -> Iterator[tuple[str, str]]:
    metas = metas_of(page.root)
    for name, keys in _METAS:
        for key in keys:
            value = metas.get(key, "")
            # The address of a profile is not a name.
            if value and not (name == "author" and value.startswith(("http://", "https://"))):
                yield name, value
    language = page.root.get("lang") or ""
    if language:
        yield "language", language
