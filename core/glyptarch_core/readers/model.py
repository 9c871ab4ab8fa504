"""The result of all readers, and their shared helpers."""

import hashlib
import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta
from urllib.parse import urljoin

from glyptarch_core.item import Features, Item, Media, MediaKind, MediaOrigin, features_of
from glyptarch_core.text import number_in, pixels
from glyptarch_core.text.markup import fragment
from glyptarch_core.text.prices import HIGHEST, amount_of

__all__ = [
    "MAX_ENTRIES",
    "Feed",
    "FeedEntry",
    "ReadWarning",
    "identity_of",
    "is_whole",
    "kind_of",
    "pictures_in",
    "resolve",
    "seconds",
    "stated",
    "unique_media",
]

MAX_ENTRIES = 2000
"""Entries read from one feed; what comes after is left, with a warning."""

_WHOLE = re.compile(r"^\d{1,9}(?:\.\d{1,3})?$")
_KINDS = {"image": MediaKind.PICTURE, "video": MediaKind.FILM, "audio": MediaKind.SOUND}
_ENDINGS = {
    MediaKind.PICTURE: (".jpg", ".jpeg", ".png", ".gif", ".webp", ".avif", ".svg"),
    MediaKind.FILM: (".mp4", ".webm", ".mov", ".m4v"),
    MediaKind.SOUND: (".mp3", ".ogg", ".m4a", ".opus", ".wav"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadWarning:
    """An oddity that did not stop the reading. ``entry`` counts from 1.

    0 is the feed itself.
    """

    code: str
    entry: int = 0
    detail: str = ""


@dataclass(frozen=True, slots=True)
class FeedEntry:
    """An item and its entry in the feed.

    ``number`` is the position (from 1), ``mark`` what the entry is known by at the next reading: one without a mark is
    always read. ``features`` are None where they were left out, because the content is stored already.
    """

    item: Item
    number: int
    mark: str = ""
    features: Features | None = None

    def computed(self) -> Features:
        """Return the features, computed now where they were left out."""
        return features_of(self.item) if self.features is None else self.features


@dataclass(frozen=True, slots=True, kw_only=True)
class Feed:
    """A read feed.

    ``format`` is a name for people: “RSS 2.0”, “Atom 1.0”, “JSON Feed 1.1”. ``unchanged`` counts known entries, which
    were not read.

    ``wished`` is the polling interval the feed asks for; ``skip_hours`` are the hours of the day (UTC) in which it asks
    not to be read (RSS 2.0). ``hub`` and ``self_link`` are for WebSub (4). ``older`` is the address of earlier entries
    (RFC 5005: ``prev-archive`` of an archived feed, ``next`` of a paged one).
    """

    format: str
    title: str
    link: str
    language: str
    entries: tuple[FeedEntry, ...]
    warnings: tuple[ReadWarning, ...]
    unchanged: int = 0
    wished: timedelta = timedelta(0)
    skip_hours: frozenset[int] = frozenset()
    hub: str = ""
    self_link: str = ""
    older: str = ""

    @property
    def items(self) -> tuple[Item, ...]:
        """The items of the entries, in their order."""
        return tuple(entry.item for entry in self.entries)


# A rooted path without dot segments, query or fragment, and the origin of a base.
_ROOTED = re.compile(r"(?!.*/\.)/(?![/\\])[\w.~!$&'()*+,=:@%/-]+", re.ASCII)
_ORIGIN = re.compile(r"https?://[\w.-]+(?::\d+)?(?=[/?#]|$)", re.ASCII)
_PATH = r"[\w.~!$&'()*+,=:@%/-]"
_WHOLE_ADDRESS = re.compile(
    rf"https?://[\w.-]+(?::\d+)?(?:/{_PATH}*)?(?:\?(?:{_PATH}|\?)+)?(?:#(?:{_PATH}|\?)+)?", re.ASCII
)


def is_whole(address: str) -> bool:
    """Whether an address is absolute and does not change when it is resolved (RFC 3986, 5.2.2)."""
    return _WHOLE_ADDRESS.fullmatch(address) is not None


def resolve(base: str, address: str | None) -> str:
    """Resolve an address against a base (RFC 3986, 5).

    Empty for other schemes than http and https.
    """
    if not address or not address.strip():
        return ""
    if is_whole(address):
        return address
    if _ROOTED.fullmatch(address) and (origin := _ORIGIN.match(base)):
        # Most addresses of a page need no general resolution.
        return origin[0] + address
    try:
        full = urljoin(base, address.strip())
    except ValueError:
        return ""
    return full if full.lower().startswith(("http://", "https://")) else ""


def identity_of(stated: str, link: str, title: str, body: str) -> str:
    """Return the entry's own identity, else its link, else a hash of its texts."""
    if stated or link:
        return stated or link
    return "sha256:" + hashlib.sha256(f"{title}\n{body}".encode("utf-8", "surrogatepass")).hexdigest()


def kind_of(url: str, mime: str = "", medium: str = "") -> MediaKind:
    """Return the kind of media: picture, film or sound.

    By MIME type, stated medium, or extension.
    """
    named = _KINDS.get(mime.partition("/")[0]) or _KINDS.get(medium)
    if named:
        return named
    path = url.partition("?")[0].lower()
    return next((kind for kind, endings in _ENDINGS.items() if path.endswith(endings)), MediaKind.OTHER)


_NUMBERS = frozenset({"rating", "views", "length", "price"})
_MOST_FACTS = 40
_LONGEST_FACT = 500
_LONGEST_SAID = 100


def stated(**values: object) -> dict[str, str | float]:
    """Return the facts that have a value.

    Rating, views, length and price as numbers. A text in place of a price becomes ``price_said``: a wrong price is
    worse than none.
    """
    facts: dict[str, str | float] = {}
    for name, value in list(values.items())[:_MOST_FACTS]:
        if isinstance(value, bool) or not isinstance(value, str | int | float) or value == "":
            continue
        text = str(value).replace("\x00", "").strip()[:_LONGEST_FACT]
        if name == "price" and isinstance(value, str) and not _is_one_price(text):
            facts["price_said"] = text[:_LONGEST_SAID]
        elif name in _NUMBERS:
            number = number_in(text) if isinstance(value, str) else float(value)
            if number is not None and math.isfinite(number) and (name != "price" or 0 < number < HIGHEST):
                facts[name] = number
        elif text:
            facts[name] = text
    return facts


def _is_one_price(text: str) -> bool:
    """Whether a text states one amount, and can be read in one way only.

    “1.299” alone may be a little over one or over a thousand.
    """
    amount, number = amount_of(text), number_in(text)
    return amount is not None and number is not None and math.isclose(amount, number)


def seconds(value: object) -> float | None:
    """Return a length in seconds, stated as seconds or as ``[hours:]minutes:seconds``."""
    parts = str(value).strip().split(":")
    if not 1 <= len(parts) <= len(("hours", "minutes", "seconds")) or not all(_WHOLE.match(part) for part in parts):
        return None
    total = 0.0
    for part in parts:
        total = total * 60 + float(part)
    return total


def pictures_in(markup: str) -> Iterable[Media]:
    """Yield the pictures of an HTML fragment whose addresses are absolute already."""
    if "<img" not in markup.lower():
        return
    for image in fragment(markup).iter("img"):
        url = image.get("src", "")
        if url.startswith(("http://", "https://")):
            yield Media(
                url=url,
                kind=MediaKind.PICTURE,
                origin=MediaOrigin.TEXT,
                width=pixels(image.get("width")),
                height=pixels(image.get("height")),
                alt=" ".join(image.get("alt", "").split())[:300],
            )


def unique_media(media: Iterable[Media]) -> tuple[Media, ...]:
    """Return the first medium of each address and origin."""
    first: dict[tuple[str, MediaOrigin], Media] = {}
    for medium in media:
        if medium.url:
            first.setdefault((medium.url, medium.origin), medium)
    return tuple(first.values())
