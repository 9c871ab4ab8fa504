"""The HTML of a post with the blog's copies in place of remote pictures, films and sound."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

from lxml import html as lxml_html
from lxml.html import HtmlElement

from glyptarch_core.text.markup import fragment, serialise

__all__ = ["BODY_SIZES", "Shown", "ShownPicture", "media_of", "show_copies"]

BODY_SIZES = "(max-width: 760px) 100vw, 720px"
"""How wide a picture stands in the text (HTML, 4.8.4.2.2)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownPicture:
    """A picture with the addresses of its files: ``url`` for all browsers, ``webp`` by width.

    Width and height are in pixels; ``x`` and ``y`` are the focus in fractions of them.
    """

    url: str
    webp: tuple[tuple[str, int], ...] = ()
    width: int = 0
    height: int = 0
    x: float = 0.5
    y: float = 0.5
    credit: str = ""
    alt: str = ""

    @property
    def srcset(self) -> str:
        """The WebP files as HTML writes them."""
        return ", ".join(f"{url} {width}w" for url, width in self.webp)

    @property
    def position(self) -> str:
        """The focus as a CSS ``object-position``."""
        return f"{self.x * 100:.4g}% {self.y * 100:.4g}%"


Shown: TypeAlias = ShownPicture | str
"""A kept picture, or the address of a kept film or sound."""


def media_of(html: str) -> tuple[list[str], list[str]]:
    """Return the addresses of pictures, and of films and sound, in sanitised HTML."""
    if not any(f"<{tag}" in html for tag in ("img", "video", "audio", "source")):
        return [], []
    root = fragment(html)
    pictures = [image.get("src", "") for image in root.iter("img")]
    pictures += [film.get("poster", "") for film in root.iter("video")]
    recordings = [element.get("src", "") for element in root.iter("video", "audio", "source")]
    return _of_the_web(pictures), _of_the_web(recordings)


def _of_the_web(urls: list[str]) -> list[str]:
    return list(dict.fromkeys(url for url in urls if url.startswith(("http://", "https://"))))


def show_copies(html: str, copies: Mapping[str, Shown], *, pictures: bool) -> str:
    """Return HTML with copies in place of remote files.

    With ``pictures``, pictures without a copy are removed. Films and sound without a copy play from their source.
    """
    root = fragment(html)
    for image in list(root.iter("img")):
        kept = copies.get(image.get("src", ""))
        if isinstance(kept, ShownPicture):
            _replace(image, kept)
        elif pictures and image.get("src", "").startswith(("http://", "https://")):
            _take_out(image)
    for element in root.iter("video", "audio", "source"):
        kept = copies.get(element.get("src", ""))
        if isinstance(kept, str):
            element.set("src", kept)
        poster = copies.get(element.get("poster", ""))
        if isinstance(poster, ShownPicture):
            element.set("poster", poster.url)
        elif pictures and element.get("poster"):
            element.attrib.pop("poster")
    return serialise(root)


def _replace(image: HtmlElement, kept: ShownPicture) -> None:
    image.set("src", kept.url)
    image.set("width", str(kept.width))
    image.set("height", str(kept.height))
    image.set("loading", "lazy")
    image.attrib.pop("srcset", None)
    if not image.get("alt") and kept.alt:
        image.set("alt", kept.alt)
    parent = image.getparent()
    if not kept.webp or parent is None:
        return
    picture = lxml_html.Element("picture")
    source = lxml_html.Element("source", type="image/webp", srcset=kept.srcset, sizes=BODY_SIZES)
    picture.append(source)
    parent.replace(image, picture)
    picture.tail, image.tail = image.tail, None
    picture.append(image)


def _take_out(image: HtmlElement) -> None:
    parent = image.getparent()
    image.drop_tree()
    # An empty figure or link would leave a frame.
    while parent is not None and parent.tag in {"figure", "a", "picture"} and parent.getparent() is not None:
        if len(parent) or (parent.text_content() or "").strip():
            break
        above = parent.getparent()
        parent.drop_tree()
        parent = above
