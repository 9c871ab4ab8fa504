"""The picture that a page names as its own: Open Graph, schema.org, or a link element."""

from collections.abc import Iterator
from typing import Any

from lxml.html import HtmlElement

from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_core.readers.html import base_of, page_root
from glyptarch_core.readers.model import resolve
from glyptarch_core.text import pixels
from glyptarch_core.text.foreign_json import load_json

__all__ = ["linked_data", "metas_of", "page_picture"]

_LONGEST_DATA = 200_000
_DEEPEST = 6


def metas_of(root: HtmlElement) -> dict[str, str]:
    """Return the first content of each meta element (The Open Graph protocol; HTML 4.2.5)."""
    metas: dict[str, str] = {}
    for element in root.iter("meta"):
        name = (element.get("property") or element.get("name") or element.get("itemprop") or "").strip().lower()
        content = (element.get("content") or "").strip()
        if name and content:
            metas.setdefault(name, content)
    return metas


def _images_in(value: Any, depth: int = 0) -> Iterator[str]:  # noqa: ANN401 - whatever a page states
    """Yield the addresses under ``image`` in linked data (JSON-LD 1.1; schema.org ImageObject)."""
    if depth > _DEEPEST:
        return
    if isinstance(value, list):
        for part in value:
            yield from _images_in(part, depth + 1)
    elif isinstance(value, dict):
        yield from _addresses(value.get("image"))
        for part in value.values():
            yield from _images_in(part, depth + 1)


def _addresses(value: Any) -> Iterator[str]:  # noqa: ANN401
    for part in value if isinstance(value, list) else [value]:
        address = part.get("url") if isinstance(part, dict) else part
        if isinstance(address, str) and address.strip():
            yield address.strip()


def linked_data(root: HtmlElement) -> Iterator[Any]:
    """Yield the linked data of a page (JSON-LD 1.1).

    Invalid data is left out.
    """
    for script in root.iter("script"):
        if (script.get("type") or "").strip().lower() != "application/ld+json":
            continue
        try:
            yield load_json((script.text or "")[:_LONGEST_DATA])
        except ValueError:
            continue


def _candidates(root: HtmlElement, metas: dict[str, str]) -> Iterator[str]:
    for name in ("og:image:secure_url", "og:image", "og:image:url"):
        if name in metas:
            yield metas[name]
    for data in linked_data(root):
        yield from _images_in(data)
    for link in root.iter("link"):
        if "image_src" in (link.get("rel") or "").lower().split():
            yield link.get("href") or ""
    if "image" in metas:
        yield metas["image"]


def page_picture(page: bytes, url: str) -> Media | None:
    """Return the picture that a page names, with its stated size.

    None for none. Takes any bytes.
    """
    root = page_root(page)
    if root is None:
        return None
    metas = metas_of(root)
    base = base_of(root, url)
    for candidate in _candidates(root, metas):
        address = resolve(base, candidate)
        if address.startswith(("http://", "https://")):
            stated = address == resolve(base, metas.get("og:image", ""))
            return Media(
                url=address,
                kind=MediaKind.PICTURE,
                origin=MediaOrigin.PAGE,
                width=pixels(metas.get("og:image:width")) if stated else None,
                height=pixels(metas.get("og:image:height")) if stated else None,
                alt=" ".join(metas.get("og:image:alt", "").split())[:300],
            )
    return None
