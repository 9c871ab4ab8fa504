"""The picture that represents a post."""

from collections.abc import Iterable
from enum import StrEnum

from lxml.html import HtmlElement
from pydantic import Field

from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.settings import Settings
from glyptarch_core.shape.base import Draftable

__all__ = ["LeadFrom", "LeadSettings", "choose_lead", "take_out_picture"]

# Counting pixels and spacers are no pictures; below this size (pixels) a stated size says so.
_SMALLEST = 32


class LeadFrom(StrEnum):
    """Where a lead picture may come from."""

    FEED = "feed"
    ENCLOSURE = "enclosure"
    TEXT = "text"


class LeadSettings(Settings):
    """The order in which pictures are preferred, and whether the lead also stays in the body."""

    order: tuple[LeadFrom, ...] = Field(default=(LeadFrom.FEED, LeadFrom.ENCLOSURE, LeadFrom.TEXT), max_length=3)
    take_out_of_body: bool = True


def _showable(media: Iterable[Media]) -> list[Media]:
    return [
        medium
        for medium in media
        if medium.kind is MediaKind.PICTURE
        and medium.url.startswith(("http://", "https://"))
        and (medium.width or _SMALLEST) >= _SMALLEST
        and (medium.height or _SMALLEST) >= _SMALLEST
    ]


def choose_lead(settings: LeadSettings, captured: Captured) -> Media | None:
    """Give the first picture of the most preferred origin that has one; of several in a feed, the widest."""
    pictures = _showable(captured.item.media)
    for wanted in settings.order:
        found = [picture for picture in pictures if picture.origin is MediaOrigin(wanted.value)]
        if found:
            return max(found, key=lambda picture: picture.width or 0) if wanted is LeadFrom.FEED else found[0]
    return None


def take_out_picture(parts: Draftable, url: str) -> None:
    """Take a picture out of the body, with the figure or link that holds nothing else."""
    root = parts.root
    for image in [image for image in root.iter("img") if image.get("src") == url]:
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
