"""Linked data of public pages (JSON-LD 1.1, schema.org), for search engines and programs."""

import json
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from django.utils.safestring import SafeString, mark_safe

from glyptarch_server.front.offering import OfferView, ReviewView
from glyptarch_server.front.pages import PostView, SoundView

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["article", "website"]

# No text can end the element that holds it (HTML, 13.2.5.4).
_ESCAPED = {ord("<"): "\\u003C", ord(">"): "\\u003E", ord("&"): "\\u0026"}
_LONGEST_HEADLINE = 110


def _block(*things: Mapping[str, Any]) -> SafeString:
    said = {"@context": "https://schema.org", "@graph": [_without_empty(thing) for thing in things]}
    return mark_safe(json.dumps(said, ensure_ascii=False).translate(_ESCAPED))  # noqa: S308 - escaped above


def _without_empty(thing: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in thing.items() if value not in ("", None, [], {})}


def _publisher(blog: "Blog", home: str) -> dict[str, Any]:
    return {"@type": "Organization", "name": blog.title, "url": home}


def website(blog: "Blog", home: str) -> SafeString:
    """Describe a blog and its search."""
    return _block(
        {
            "@type": "WebSite",
            "@id": home,
            "url": home,
            "name": blog.title,
            "description": blog.tagline,
            "inLanguage": blog.language,
            "potentialAction": {
                "@type": "SearchAction",
                "target": {"@type": "EntryPoint", "urlTemplate": f"{home}search/?q={{words}}"},
                "query-input": "required name=words",
            },
        }
    )


def article(
    blog: "Blog", post: PostView, *, home: str, address: str, origin: str, sound: SoundView | None, film: str
) -> SafeString:
    """Describe a post, the way to it, and its film or sound.

    A post with a pass phrase says its title only.
    """
    steps = [(blog.title, home)]
    if post.category:
        steps.append((post.category.name, f"{home}section/{post.category.slug}/"))
    way = {
        "@type": "BreadcrumbList",
        "itemListElement": [
            {"@type": "ListItem", "position": place, "name": name, "item": url}
            for place, (name, url) in enumerate([*steps, (post.title, address)], start=1)
        ],
    }
    lead = None if post.has_phrase else post.lead
    picture = None
    if lead is not None:
        url = f"{origin}{lead.picture.url}" if lead.picture.url.startswith("/") else lead.picture.url
        size = {"width": lead.picture.width, "height": lead.picture.height}
        picture = {"@type": "ImageObject", "url": url, "caption": lead.alt, **size}
    told = "" if post.has_phrase else post.summary
    common = {"name": post.title, "description": told, "inLanguage": post.language or blog.language}
    dated = {"datePublished": post.date.isoformat()}
    things: list[Mapping[str, Any]] = [
        {
            "@type": "Article",
            "@id": address,
            "mainEntityOfPage": address,
            "headline": post.title[:_LONGEST_HEADLINE],
            **common,
            **dated,
            "author": {"@type": "Person", "name": post.byline} if post.byline else _publisher(blog, home),
            "publisher": _publisher(blog, home),
            "image": _without_empty(picture) if picture else None,
            "articleSection": post.category.name if post.category else "",
            "keywords": [tag.name for tag in post.tags],
            "isBasedOn": post.link,
        },
        way,
    ]
    if film and not post.has_phrase:
        still = picture["url"] if picture else ""
        told_of = {"uploadDate": post.date.isoformat(), "embedUrl": film, "thumbnailUrl": still}
        things.append({"@type": "VideoObject", **common, **told_of})
    if sound is not None and not post.has_phrase:
        url = f"{origin}{sound.url}" if sound.url.startswith("/") else sound.url
        medium = {"@type": "MediaObject", "contentUrl": url}
        things.append({"@type": "PodcastEpisode", **common, **dated, "associatedMedia": medium})
    if post.offer is not None and not post.has_phrase:
        things.append(_product(post, post.offer, str(picture["url"]) if picture else post.offer.picture))
    return _block(*things)


def _product(post: PostView, offer: OfferView, picture: str) -> Mapping[str, Any]:
    """Describe the product of a post, by what its page shows and nothing else."""
    sold: dict[str, Any] = {"@type": "Offer", "url": offer.shop_link, "availability": offer.availability}
    if offer.amount:
        sold |= {"price": offer.amount, "priceCurrency": offer.currency, "priceValidUntil": offer.until}
    rated = {}
    if offer.rating_value is not None and offer.ratings:
        rated = {"@type": "AggregateRating", "ratingValue": offer.rating_value, "ratingCount": offer.ratings}
    return {
        "@type": "Product",
        "name": offer.title or post.title,
        "sku": offer.number,
        "image": picture,
        "offers": _without_empty(sold),
        "aggregateRating": rated,
        "review": [_review(review) for review in offer.reviews],
    }


def _review(review: ReviewView) -> Mapping[str, Any]:
    rated = {"@type": "Rating", "ratingValue": review.value} if review.value is not None else ""
    by = {"@type": "Person", "name": review.by} if review.by else ""
    return _without_empty({"@type": "Review", "reviewBody": review.text, "author": by, "reviewRating": rated})
