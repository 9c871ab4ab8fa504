"""What a shop tells of a product beside its offer: features, pictures and reviews.

They are texts and pictures of the shop, so they are shown only where its source may be republished in full.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from glyptarch_core.item import Item, MediaKind, Review
from glyptarch_core.text import clean_line

__all__ = ["ProductDetails", "details_of", "read_details"]

_MOST_FEATURES = 20
_MOST_PICTURES = 12
_MOST_REVIEWS = 5
_LONGEST_FEATURE = 200
_LONGEST_REVIEW = 500
_LONGEST_NAME = 80
_LONGEST_ADDRESS = 4000
_BEST = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ProductDetails:
    """Features of a product, addresses of its pictures, and excerpts of reviews."""

    features: Sequence[str] = ()
    pictures: Sequence[str] = ()
    reviews: Sequence[Review] = ()

    def stored(self) -> dict[str, Any]:
        """Return them as JSON. Empty ones are left out."""
        reviews = [{"text": review.text, "by": review.by, "stars": review.stars} for review in self.reviews]
        values = {"features": list(self.features), "pictures": list(self.pictures), "reviews": reviews}
        return {name: value for name, value in values.items() if value}


def read_details(item: Item) -> ProductDetails:
    """Return what an item tells of its product, within bounds of number and length."""
    features = (clean_line(text, _LONGEST_FEATURE) for text in item.features[:_MOST_FEATURES])
    pictures = (medium.url for medium in item.media if medium.kind is MediaKind.PICTURE)
    fitting = (url for url in pictures if url.startswith(("http://", "https://")) and len(url) <= _LONGEST_ADDRESS)
    reviews = (_fitting(review) for review in item.reviews[: _MOST_REVIEWS * 2])
    return ProductDetails(
        features=tuple(dict.fromkeys(text for text in features if text)),
        pictures=tuple(dict.fromkeys(fitting))[:_MOST_PICTURES],
        reviews=tuple(review for review in reviews if review.text)[:_MOST_REVIEWS],
    )


def _fitting(review: Review) -> Review:
    """Return a review within its bounds. Stars that are not of five are left out."""
    text = " ".join(review.text.split())
    if len(text) > _LONGEST_REVIEW:
        text = text[:_LONGEST_REVIEW].rpartition(" ")[0].rstrip(",;:–—-") + "…"
    stars = review.stars if review.stars is not None and 0 < review.stars <= _BEST else None
    return Review(text=clean_line(text, _LONGEST_REVIEW + 1), by=clean_line(review.by, _LONGEST_NAME), stars=stars)


def details_of(stored: Mapping[str, Any]) -> ProductDetails:
    """Return stored details (``ProductDetails.stored``)."""
    reviews = tuple(Review(**review) for review in stored.get("reviews", ()))
    return ProductDetails(
        features=tuple(stored.get("features", ())), pictures=tuple(stored.get("pictures", ())), reviews=reviews
    )
