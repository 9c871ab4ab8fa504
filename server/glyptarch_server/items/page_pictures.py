"""Pictures of the pages that items link to."""

from dataclasses import asdict
from datetime import datetime

from glyptarch_core.item import MediaKind, MediaOrigin

from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import Fetched, FetchPortal, FetchRequest

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
    asked = bare[:_MOST_PAGES]

    def request_for(url: str) -> FetchRequest:
        return FetchRequest(url=url, pause_ms=source.pause_ms)

    answers = fetch_pages([row.link for row in asked], request_for=request_for, fetcher=fetcher, now=now)
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


def _has_own_picture(row: Item) -> bool:
    own = {MediaOrigin.FEED.value, MediaOrigin.ENCLOSURE.value}
    return any(medium["kind"] == MediaKind.PICTURE.value and medium["origin"] in own for medium in row.media)
