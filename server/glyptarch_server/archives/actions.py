"""Walking back: counting first, then capturing page by page."""

from dataclasses import dataclass
from datetime import date, datetime

from django.db import IntegrityError, transaction
from glyptarch_core.errors import Fault
from glyptarch_core.item import Item

from glyptarch_server.accounts.models import User
from glyptarch_server.archives.lifecycle import WalkState
from glyptarch_server.archives.models import Walk
from glyptarch_server.archives.paging import Page, pages_back
from glyptarch_server.audit.actions import record
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.items.capturing import capture_entries
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.readings import lock_sources
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import TaskError, TaskState
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchPortal

__all__ = ["Expected", "begin_walk", "carry_out", "end_with_task", "expect"]

_COUNTED_PAGES = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """The expected result of a walk: pages, items and the oldest date.

    Also says whether counting stopped early.
    """

    pages: int
    items: int
    oldest: datetime | None
    more: bool
    why_ended: str


def _checked(pattern: str) -> str:
    text = pattern.strip()
    if text and (text.count("{page}") != 1 or not text.startswith(("http://", "https://"))):
        message = (
            "Write the address with {page} where the number of the page stands: https://a.example/feed?page={page}"
        )
        raise Invalid(message, faults=[Fault(path="pattern", message=message)])
    return text


def _moment(item: Item) -> datetime | None:
    return item.published or item.updated


def _within(page: Page, floor: date) -> list[int]:
    """Return the positions of the items of a page that are not older than a day.

    Undated items are included.
    """
    if page.feed is None:
        return []
    dated = [(place, _moment(item)) for place, item in enumerate(page.feed.items)]
    return [place for place, at in dated if at is None or at.date() >= floor]


def expect(source: Source, *, floor: date, pattern: str, fetcher: FetchPortal) -> Expected:
    """Count what a walk would bring, at most twenty pages.

    Nothing is stored. Raises Invalid for a bad pattern.
    """
    items, oldest, last = 0, None, Page(number=0, feed=None, next_url="", why_last="")
    for page in pages_back(source, floor=floor, pattern=_checked(pattern), fetcher=fetcher):
        last = page
        kept = _within(page, floor)
        items += len(kept)
        dates = [at for place in kept if page.feed and (at := _moment(page.feed.items[place]))]
        oldest = min([*dates, *([oldest] if oldest else [])], default=None)
        if page.number >= _COUNTED_PAGES:
            break
    return Expected(pages=last.number, items=items, oldest=oldest, more=bool(last.next_url), why_ended=last.why_last)


def begin_walk(source: Source, *, floor: date, pattern: str, by: User | None, now: datetime) -> Walk:
    """Create a walk and its task. Raises Conflict while another one is under way."""
    checked = _checked(pattern)
    try:
        with transaction.atomic():
            walk = Walk.objects.create(
                source=source, floor=floor, pattern=checked, state=WalkState.WAITING.value, asked_at=now
            )
            record("source.older", source.title, blog=source.blog_id, after={"floor": floor.isoformat()})
            walk.task = begin_task(
                "older",
                walk.pk,
                blog_id=source.blog_id,
                subject=source.title,
                now=now,
                path=f"sources/{source.key}",
                lock=f"walk:{source.pk}",
                by_id=by.pk if by else None,
            )
            walk.save(update_fields=["task"])
    except IntegrityError as error:
        raise Conflict("Older items of this source are being read already.") from error
    return walk


def carry_out(task: Task, carrier: Carrier) -> None:
    """Continue a walk from its current page to its end. Safe to repeat after a crash."""
    walk = Walk.objects.select_related("source").get(pk=task.ref)
    source = walk.source
    pages = pages_back(
        source,
        floor=walk.floor,
        pattern=walk.pattern,
        fetcher=carrier.fetcher,
        next_url=walk.next_url,
        number=walk.page,
    )
    for page in pages:
        with transaction.atomic():
            carrier.check()
            _take(walk, page, now=carrier.now())
            walk.why_ended = page.why_last
            walk.save()
        if page.feed is None:
            raise TaskError(page.why_last)
        if not page.why_last:
            carrier.report(walk.page, 0)


def end_with_task(task: Task, state: TaskState, at: datetime) -> None:
    """End the walk that a task carried out."""
    why = {TaskState.STOPPED: "It was stopped.", TaskState.FAILED: task.failure}
    rows = Walk.objects.filter(pk=task.ref, ended_at=None)
    if state in why:
        rows.update(why_ended=why[state])
    rows.update(state=WalkState(state.value).value, ended_at=at)


def _take(walk: Walk, page: Page, *, now: datetime) -> None:
    """Capture the items of a page that are not too old, and note how far the walk has come."""
    walk.page, walk.next_url, walk.state = page.number, page.next_url[:2000], WalkState.WALKING.value
    if page.feed is None:
        return
    if not lock_sources([walk.source]):
        raise TaskError(f"“{walk.source.title}” has been withdrawn or removed.")
    kept = _within(page, walk.floor)
    entries = [page.feed.entries[place] for place in kept]
    walk.fresh += capture_entries(walk.source, entries, now=now).fresh
    walk.found += len(entries)
    dates = [at for entry in entries if (at := _moment(entry.item))]
    walk.oldest = min([*dates, *([walk.oldest] if walk.oldest else [])], default=None)
