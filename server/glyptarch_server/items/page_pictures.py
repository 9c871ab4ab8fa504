"""Pictures of the pages that items link to."""

from dataclasses import asdict
from datetime import datetime, timedelta
from urllib.parse import urljoin

from glyptarch_core.item import MediaKind, MediaOrigin

from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import USER_AGENT, Fetched, FetchPortal, FetchRequest, Robots

__all__ = ["look_up_pages"]

_LOOKED_AT = 200
_MOST_PAGES = 20


def look_up_pages(source: Source, *, fetcher: FetchPortal, now: datetime) -> int:
    """Ask the pages that items link to for their pictures, where the source is read so. Gives how many were found.

    The site's robots.txt (RFC 9309) is respected. Only items that bring no picture of their own are
    looked up, the newest first, twenty pages at a time: the next reading goes on with the rest. A page
    is asked once. One that cannot be had leaves its item as it is.
    """
    if not source.reads_pages:
        return 0
    waiting = Item.objects.filter(source=source, page_asked_at=None).order_by("-dated")
    rows = list(waiting.only("link", "media")[:_LOOKED_AT])
    bare = [row for row in rows if row.link.startswith(("http://", "https://")) and not _has_own_picture(row)]
    asked, requests = _allowed(bare[:_MOST_PAGES], source, fetcher, now)
    answers = fetcher.fetch_all(requests)
    found: list[Item] = []
    pages = [(row, answer) for row, answer in zip(asked, answers, strict=True) if isinstance(answer, Fetched)]
    pictures = wiring.apart().pictures_of([(answer.body, answer.url) for _, answer in pages])
    for (row, _), picture in zip(pages, pictures, strict=True):
        if picture:
            row.media = [*row.media, asdict(picture)]
            row.changed_at = now
            found.append(row)
    Item.objects.bulk_update(found, ["media", "changed_at"], batch_size=200)
    done = {row.pk for row in rows} - {row.pk for row in bare[_MOST_PAGES:]}
    Item.objects.filter(pk__in=done).update(page_asked_at=now)
    return len(found)


_robots: dict[str, tuple[datetime, Robots]] = {}
_MOST_SITES = 1000
_ROBOTS_HOLD = timedelta(hours=1)


def _is_fresh(address: str, now: datetime) -> bool:
    known = _robots.get(address)
    return known is not None and timedelta() <= now - known[0] < _ROBOTS_HOLD


def _read_robots(addresses: list[str], fetcher: FetchPortal, now: datetime) -> None:
    """Read robots.txt of sites, and keep it for an hour (RFC 9309, 2.4 allows a day). The oldest ones are forgotten."""
    answers = fetcher.fetch_all([FetchRequest(url=address) for address in addresses])
    for address, answer in zip(addresses, answers, strict=True):
        _robots.pop(address, None)
        read = Robots.read(answer.body, USER_AGENT) if isinstance(answer, Fetched) else Robots()
        _robots[address] = now, read
    while len(_robots) > max(_MOST_SITES, len(addresses)):
        _robots.pop(next(iter(_robots)))


def _allowed(
    rows: list[Item], source: Source, fetcher: FetchPortal, now: datetime
) -> tuple[list[Item], list[FetchRequest]]:
    """Give the rows whose pages robots.txt lets us read, with the requests for them; their pace is that of the site."""
    addresses = dict.fromkeys(urljoin(row.link, "/robots.txt") for row in rows)
    _read_robots([address for address in addresses if not _is_fresh(address, now)], fetcher, now)
    kept, requests = [], []
    for row in rows:
        robots = _robots[urljoin(row.link, "/robots.txt")][1]
        if robots.allows(row.link):
            kept.append(row)
            requests.append(FetchRequest(url=row.link, pause_ms=max(source.pause_ms, robots.pause_ms())))
    return kept, requests


def _has_own_picture(row: Item) -> bool:
    own = {MediaOrigin.FEED.value, MediaOrigin.ENCLOSURE.value}
    return any(medium["kind"] == MediaKind.PICTURE.value and medium["origin"] in own for medium in row.media)
