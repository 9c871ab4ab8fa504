"""oEmbed (oembed.com): the player that a page offers by its links, as JSON or XML."""

from dataclasses import dataclass

from lxml import etree

from glyptarch_core.pages.page import Page
from glyptarch_core.readers.decode import decode
from glyptarch_core.readers.model import resolve
from glyptarch_core.text.foreign_json import load_json
from glyptarch_core.text.markup import fragment

__all__ = ["Player", "oembed_link", "read_oembed"]

_TYPES = ("application/json+oembed", "text/xml+oembed", "application/xml+oembed")
_KINDS = frozenset({"video", "rich"})
_LONGEST = 200_000
_RATIOS = (0.2, 5.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Player:
    """A player: the address of its frame, with width and height.

    0 where they are not stated.
    """

    url: str
    ratio: float = 0.0


def oembed_link(page: Page) -> str:
    """Return the oEmbed address that a page names (oEmbed 4, discovery), JSON before XML."""
    links: dict[str, str] = {}
    for link in page.root.iter("link"):
        kind = (link.get("type") or "").strip().lower()
        if "alternate" in (link.get("rel") or "").lower().split() and kind in _TYPES:
            links.setdefault(kind, page.resolve(link.get("href")))
    return next((links[kind] for kind in _TYPES if links.get(kind)), "")


def read_oembed(body: bytes, url: str, content_type: str = "") -> Player | None:
    """Return the player of an answer (oEmbed 2.3.4.2).

    Its address is that of the first frame in ``html``. None where the answer offers no player or is invalid.
    """
    text = decode(body[:_LONGEST], content_type).text.lstrip("\ufeff \t\r\n")
    fields = _from_json(text) if text.startswith("{") else _from_xml(text)
    if fields.get("type", "").strip().lower() not in _KINDS:
        return None
    frame = next(fragment(fields.get("html", "")).iter("iframe"), None)
    address = resolve(url, frame.get("src")) if frame is not None else ""
    if not address:
        return None
    width, height = _number(fields.get("width", "")), _number(fields.get("height", ""))
    ratio = width / height if width and height else 0.0
    return Player(url=address, ratio=round(ratio, 4) if _RATIOS[0] <= ratio <= _RATIOS[1] else 0.0)


def _from_json(text: str) -> dict[str, str]:
    try:
        data = load_json(text)
    except ValueError:
        return {}
    fields = data if isinstance(data, dict) else {}
    return {name: str(value) for name, value in fields.items() if isinstance(value, str | int | float)}


def _from_xml(text: str) -> dict[str, str]:
    parser = etree.XMLParser(resolve_entities=False, no_network=True, recover=True, remove_comments=True)
    try:
        root = etree.fromstring(text.encode(), parser)
    except (etree.XMLSyntaxError, ValueError):
        return {}
    if root is None or root.tag != "oembed":
        return {}
    return {child.tag: child.text or "" for child in root if isinstance(child.tag, str)}


def _number(text: str) -> float:
    try:
        number = float(text)
    except ValueError:
        return 0.0
    return number if 0 < number < 100_000 else 0.0  # noqa: PLR2004 - more is no width of a player
