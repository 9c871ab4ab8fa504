"""Testing an address before it becomes a source: its feed and filled fields."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Item, MediaKind
from glyptarch_core.readers import Feed, FeedLink

from glyptarch_server import wiring
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal, FetchRequest, RawFeed

__all__ = ["Checked", "Sample", "check_addresses", "normal_address"]

_SAMPLES = 3
_NEWEST_OF = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Sample:
    """One of the newest items of a tried feed."""

    title: str
    link: str
    published: str | None
    words: int
    picture: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """The result of testing an address: a feed, feeds that a page names, or an error.

    ``url`` is the address to read it at.
    """

    address: str
    url: str = ""
    feed: Feed | None = None
    samples: tuple[Sample, ...] = ()
    fields: dict[str, int] = field(default_factory=dict)
    leads_to: tuple[FeedLink, ...] = ()
    error: str = ""
    detail: str = ""
    milliseconds: int = 0


def normal_address(address: str) -> str:
    """Return a typed address with a scheme, https by default.

    ``feed:`` is removed.
    """
    text = address.strip()
    if text.lower().startswith("feed:"):
        text = text[5:].removeprefix("//")
    return text if "://" in text else f"https://{text}"


def check_addresses(addresses: Sequence[str], fetcher: FetchPortal) -> list[Checked]:
    """Fetch and read every address.

    A failing one does not stop the others.
    """
    asked = [normal_address(address) for address in addresses]
    answers = fetcher.fetch_all([FetchRequest(url=url) for url in asked])
    plain = [place for place, address in enumerate(addresses) if _wants_plain_http(address, answers[place])]
    again = fetcher.fetch_all([FetchRequest(url=f"http://{addresses[place].strip()}") for place in plain])
    for place, answer in zip(plain, again, strict=True):
        if isinstance(answer, Fetched):
            answers[place], asked[place] = answer, f"http://{addresses[place].strip()}"
    fetched = [answer for answer in answers if isinstance(answer, Fetched)]
    read = wiring.apart().read_feeds(
        [
            RawFeed(body=answer.body, source="new", url=answer.url, content_type=answer.content_type)
            for answer in fetched
        ]
    )
    feeds = iter(read)
    return [
        _failed(address, answer) if isinstance(answer, FetchError) else _checked(address, url, answer, next(feeds))
        for address, url, answer in zip(addresses, asked, answers, strict=True)
    ]


def _wants_plain_http(address: str, answer: Fetched | FetchError) -> bool:
    """Whether https, tried since no scheme was typed, is not spoken there."""
    typed = "://" in address or address.strip().lower().startswith("feed:")
    return not typed and isinstance(answer, FetchError) and answer.code in {FetchCode.TLS, FetchCode.UNREACHABLE}


def _failed(address: str, error: FetchError) -> Checked:
    return Checked(address=address, error=error.code.value, detail=str(error))


def _checked(address: str, asked: str, answer: Fetched, feed: Feed | ParseError) -> Checked:
    if isinstance(feed, ParseError):
        return _no_feed(address, answer, feed)
    return Checked(
        address=address,
        # Only a permanent redirect moves an address (RFC 9110, 15.4).
        url=answer.moved_to or asked,
        feed=feed,
        samples=tuple(_sample(item, words) for item, words in _newest(feed)),
        fields=_fields(feed.items),
        milliseconds=answer.milliseconds,
    )


def _no_feed(address: str, answer: Fetched, error: ParseError) -> Checked:
    links = wiring.apart().feeds_named_by(answer.body, answer.url) if error.code == "page" else ()
    detail = "" if links else str(error)
    if error.code == "page" and not links:
        detail = "This is a web page, and it names no feed in its link elements. Look on the site for “RSS” or “feed”."
    return Checked(
        address=address,
        url=answer.url,
        leads_to=links,
        error="" if links else error.code,
        detail=detail,
        milliseconds=answer.milliseconds,
    )


def _newest(feed: Feed) -> list[tuple[Item, int]]:
    """Return the newest items, each with its number of words."""
    counted = [(entry.item, entry.computed().words) for entry in feed.entries]
    dated = [item for item in counted[:_NEWEST_OF] if item[0].published]
    newest = sorted(dated, key=lambda item: item[0].published, reverse=True)  # type: ignore[arg-type, return-value]
    return (newest or counted)[:_SAMPLES]


def _sample(item: Item, words: int) -> Sample:
    picture = next((medium.url for medium in item.media if medium.kind is MediaKind.PICTURE), "")
    return Sample(
        title=item.title,
        link=item.link,
        published=item.published.isoformat() if item.published else None,
        words=words,
        picture=picture,
    )


def _fields(items: Sequence[Item]) -> dict[str, int]:
    """Count how many items fill each field."""
    return {
        "title": sum(bool(item.title) for item in items),
        "link": sum(bool(item.link) for item in items),
        "body": sum(bool(item.body) for item in items),
        "summary": sum(bool(item.summary) for item in items),
        "author": sum(bool(item.authors) for item in items),
        "categories": sum(bool(item.categories) for item in items),
        "published": sum(item.published is not None for item in items),
        "picture": sum(any(medium.kind is MediaKind.PICTURE for medium in item.media) for item in items),
        "film": sum(any(medium.kind is MediaKind.FILM for medium in item.media) for item in items),
        "sound": sum(any(medium.kind is MediaKind.SOUND for medium in item.media) for item in items),
    }
