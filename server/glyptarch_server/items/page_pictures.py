"""Pictures of the pages that items link to."""

from dataclasses import asdict
from datetime import datetime
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
    asked, requests = _allowed(bare[:_MOST_PAGES], source, fetcher)
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


def _allowed(rows: list[Item], source: Source, fetcher: FetchPortal) -> tuple[list[Item], list[FetchRequest]]:
    """Give the rows whose pages robots.txt lets us read, with the requests for them; their pace is that of the site."""
    hosts = dict.fromkeys(urljoin(row.link, "/robots.txt") for row in rows)
    read = fetcher.fetch_all([FetchRequest(url=address) for address in hosts])
    rules = {
        address: Robots.read(answer.body, USER_AGENT) if isinstance(answer, Fetched) else Robots()
        for address, answer in zip(hosts, read, strict=True)
    }
    kept, requests = [], []
    for row in rows:
        robots = rules[urljoin(row.link, "/robots.txt")]
        if robots.allows(row.link):
            kept.append(row)
            requests.append(FetchRequest(url=row.link, pause_ms=max(source.pause_ms, robots.pause_ms())))
    return kept, requests


def _has_own_picture(row: Item) -> bool:
    own = {MediaOrigin.FEED.value, MediaOrigin.ENCLOSURE.value}
    return any(medium["kind"] == MediaKind.PICTURE.value and medium["origin"] in own for medium in row.media)
