"""The picture that represents a post."""

from collections.abc import Callable, Sequence
from enum import StrEnum
from typing import Annotated

from lxml.html import HtmlElement
from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.settings import Settings, ShortText
from glyptarch_core.shape.base import Draftable, choice_for
from glyptarch_core.text import picture_key

__all__ = ["BlogPicture", "LeadFrom", "LeadSettings", "lead_choices", "take_out_picture"]

# Counting pixels and spacers state a size below this, in pixels.
_SMALLEST = 32


class LeadFrom(StrEnum):
    """The origin of a lead picture.

    ``page`` is the picture that the linked page names, ``text`` the first large enough one in the text, ``blog`` a
    picture of the blog.
    """

    FEED = "feed"
    ENCLOSURE = "enclosure"
    PAGE = "page"
    TEXT = "text"
    BLOG = "blog"


class BlogPicture(Settings):
    """A picture of the blog with its description: a web address, or one of the blog's library."""

    url: Annotated[str, StringConstraints(pattern=r"^(?:https?://\S+|/media/pictures/[0-9a-z/.]+)$", max_length=2000)]
    alt: ShortText = ""


class LeadSettings(Settings):
    """The preferred order of pictures, and whether the lead stays in the body as well.

    Pictures below ``least_width`` x ``least_height`` pixels do not count; pictures without a stated size only where
    ``unknown_size_counts``. An item always gets the same of several ``pictures`` of the blog or of its library pictures
    with the label ``pool``.
    """

    order: tuple[LeadFrom, ...] = Field(default=(LeadFrom.FEED, LeadFrom.ENCLOSURE, LeadFrom.TEXT), max_length=5)
    least_width: int = Field(default=0, ge=0, le=10_000)
    least_height: int = Field(default=0, ge=0, le=10_000)
    unknown_size_counts: bool = True
    pictures: tuple[BlogPicture, ...] = Field(default=(), max_length=50)
    pool: Annotated[str, StringConstraints(max_length=60)] = ""
    take_out_of_body: bool = True


def _large_enough(settings: LeadSettings) -> Callable[[Media], bool]:
    least_width, least_height = max(settings.least_width, _SMALLEST), max(settings.least_height, _SMALLEST)
    asked_for = bool(settings.least_width or settings.least_height)

    def check(medium: Media) -> bool:
        if medium.width is None and medium.height is None:
            return settings.unknown_size_counts or not asked_for
        wide = (medium.width or least_width) >= least_width
        return wide and (medium.height or least_height) >= least_height

    return check


def lead_choices(
    settings: LeadSettings, captured: Captured, pool: Sequence[tuple[str, str]] = ()
) -> tuple[list[Media], int]:
    """Return the pictures that can lead, best first, and the number that were too small.

    Of several in a feed the widest comes first. ``pool`` are address and text of the library's pictures with the label.
    """
    fits = _large_enough(settings)
    shown = [
        medium
        for medium in captured.item.media
        if medium.kind is MediaKind.PICTURE and medium.url.startswith(("http://", "https://"))
    ]
    pictures = [medium for medium in shown if fits(medium)]
    choices: list[Media] = []
    for wanted in settings.order:
        usable = (
            _of_the_blog(settings, captured, pool)
            if wanted is LeadFrom.BLOG
            else [picture for picture in pictures if picture.origin is MediaOrigin(wanted.value)]
        )
        choices += sorted(usable, key=lambda picture: -(picture.width or 0)) if wanted is LeadFrom.FEED else usable
    return choices, len(shown) - len(pictures)


def _of_the_blog(settings: LeadSettings, captured: Captured, pool: Sequence[tuple[str, str]]) -> list[Media]:
    own = [*((picture.url, picture.alt) for picture in settings.pictures), *pool]
    if not own:
        return []
    url, alt = own[choice_for(captured, len(own))]
    return [Media(url=url, kind=MediaKind.PICTURE, origin=MediaOrigin.BLOG, alt=alt)]


def take_out_picture(parts: Draftable, url: str) -> None:
    """Remove a picture in any size from the body, with a figure or link that has nothing else."""
    root, key = parts.root, picture_key(url)
    for image in [image for image in root.iter("img") if picture_key(image.get("src", "")) == key]:
        target = image
        parent = image.getparent()
        while parent is not None and parent is not root and _holds_only(parent):
            target, parent = parent, parent.getparent()
        target.drop_tree()
        parts.changed()


def _holds_only(parent: HtmlElement) -> bool:
    if parent.tag == "figure":
        return sum(1 for other in parent.iter("img", "video", "audio")) == 1
    text = "".join(parent.itertext()).strip()
    return parent.tag in {"a", "p", "picture", "span", "div"} and not text and len(parent) == 1
