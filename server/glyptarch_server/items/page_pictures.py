"""Pictures and full texts of the pages that items link to."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime

from django.db import transaction
from glyptarch_core.item import MediaKind, MediaOrigin
from glyptarch_core.pages.completing import complete, text_at
from glyptarch_core.pages.desk import RawPage
from glyptarch_core.pages.document import ArticlePage
from glyptarch_core.pages.oembed import read_oembed
from glyptarch_core.text.chapters import chapters_as_lines

from glyptarch_server import wiring
from glyptarch_server.accounts.models import User
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items import queries
from glyptarch_server.items.features import FEATURE_FIELDS, set_features
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.pages.memory import compare
from glyptarch_server.pages.queries import document_of
from glyptarch_server.sources.models import Source
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import TaskError
from glyptarch_server.tasks.models import Task
from glyptarch_server.tasks.queries import active_task
from glyptarch_server.wiring import Fetched, FetchPortal, FetchRequest

__all__ = ["ask_pages", "carry_out", "look_up_pages"]

_LOOKED_AT = 200
_MOST_PAGES = 20


def look_up_pages(source: Source, *, fetcher: FetchPortal, now: datetime) -> int:
    """Fetch the pages of items for pictures and full texts.

    Return how many items changed. robots.txt (RFC 9309) is respected. For pictures alone, only items without one are
    looked up. The newest twenty come first; the next reading continues. A page is fetched once. If it fails, its item
    stays unchanged.
    """
    if not source.reads_pages and not source.full_text.words:
        return 0
    waiting = Item.objects.filter(source=source, page_asked_at=None).order_by("-dated")
    rows = list(waiting.select_related("source")[:_LOOKED_AT])
    linked = [row for row in rows if row.link.startswith(("http://", "https://"))]
    wanting = [row for row in linked if source.full_text.words or not _has_own_picture(row)]
    asked = wanting[:_MOST_PAGES]

    def request_for(url: str) -> FetchRequest:
        return FetchRequest(
            url=url, pause_ms=source.access.pause_ms, rendered=source.rendered, hosts=tuple(source.rendered_hosts)
        )

    texts = bool(source.full_text.words)
    answers = fetch_pages(
        [_asked_at(row, texts=texts) for row in asked], request_for=request_for, fetcher=fetcher, now=now
    )
    pages = [(row, answer) for row, answer in zip(asked, answers, strict=True) if isinstance(answer, Fetched)]
    changed, embeds = _completed(source, pages, now) if source.full_text.words else (set[Item](), {})
    _with_players(embeds, request_for=request_for, fetcher=fetcher, now=now)
    if source.full_text.words:
        changed |= _with_chapters(asked, request_for=request_for, fetcher=fetcher, now=now)
    if source.reads_pages:
        from_pages = [(row, answer) for row, answer in pages if _asked_at(row, texts=texts) == row.link]
        changed |= _pictured([pair for pair in from_pages if not _has_own_picture(pair[0])])
    for row in changed:
        row.changed_at = row.corrected_at = now
    with transaction.atomic():
        Item.objects.bulk_update(changed, [*_COMPLETED, "changed_at", "corrected_at"], batch_size=200)
        done = {row.pk for row in rows} - {row.pk for row in wanting[_MOST_PAGES:]}
        Item.objects.filter(pk__in=done).update(page_asked_at=now)
    return len(changed)


def _asked_at(row: Item, *, texts: bool) -> str:
    """Return the address to fetch for an item.

    Its page, or for a text the transcript of an episode.
    """
    transcript = str(row.facts.get("transcript") or "")
    return transcript if texts and transcript else row.link


def _pictured(pages: Sequence[tuple[Item, Fetched]]) -> set[Item]:
    """Add the pictures named by the pages to their items.

    Return the changed items.
    """
    pictures = wiring.apart().pictures_of([(answer.body, answer.url) for _, answer in pages])
    items: set[Item] = set()
    for (row, _), picture in zip(pages, pictures, strict=True):
        if picture:
            row.media = [*row.media, asdict(picture)]
            items.add(row)
    return items


_COMPLETED = ("body", "summary", "media", "page", "facts", *FEATURE_FIELDS)


_MOST_ROUNDS = 25


def ask_pages(source: Source, *, again: bool, by: User | None, now: datetime) -> None:
    """Begin to fetch the pages of a source not fetched yet.

    ``again`` includes those without a text. Does nothing while that is under way. Raises Conflict where the source
    takes no texts.
    """
    if not source.full_text.words:
        raise Conflict("This source takes no texts from its pages. Choose that at the source first.")
    with transaction.atomic():
        Source.objects.select_for_update(of=("self",)).get(pk=source.pk)
        if active_task("texts", source.pk) is not None:
            return
        if again:
            asked = Item.objects.filter(source=source).exclude(page="taken").exclude(page_asked_at=None)
            newest = asked.order_by("-dated").values_list("pk", flat=True)[: _MOST_PAGES * _MOST_ROUNDS]
            Item.objects.filter(pk__in=list(newest)).update(page_asked_at=None)
        begin_task(
            "texts",
            source.pk,
            blog_id=source.blog_id,
            subject=source.title,
            now=now,
            path=f"sources/{source.key}",
            total=min(queries.pages_waiting(source), _MOST_PAGES * _MOST_ROUNDS),
            by_id=by.pk if by else None,
        )


def carry_out(task: Task, carrier: Carrier) -> None:
    """Ask the pages of a source that were not asked yet, at most 500 of them, twenty at a time."""
    done = task.done
    while done < task.total:
        source = Source.objects.select_related("full_text_row__reader").get(pk=task.ref)
        if source.removed_at or source.blocked_at or not source.full_text.words:
            raise TaskError(f"“{source.title}” gives no texts from its pages any more.")
        carrier.check()
        waiting = queries.pages_waiting(source)
        look_up_pages(source, fetcher=carrier.fetcher, now=carrier.now())
        asked = waiting - queries.pages_waiting(source)
        if asked <= 0:
            return
        done += asked
        carrier.report(min(done, task.total), task.total)


def _where_the_text_is(source: Source) -> ArticlePage | None:
    chosen = source.full_text
    if chosen.reader is not None:
        return document_of(chosen.reader).article
    return text_at(chosen.selector) if chosen.selector else None


def _with_players(
    embeds: Mapping[Item, str], *, request_for: Callable[[str], FetchRequest], fetcher: FetchPortal, now: datetime
) -> None:
    """Fetch the oEmbed answers that pages offer, and store the players.

    The blog decides whose to show.
    """
    rows = [row for row, address in embeds.items() if address]
    answers = fetch_pages([embeds[row] for row in rows], request_for=request_for, fetcher=fetcher, now=now)
    fetched = [(row, answer) for row, answer in zip(rows, answers, strict=True) if isinstance(answer, Fetched)]
    calls = [(answer.body, answer.url, answer.content_type) for _, answer in fetched]
    for (row, _), player in zip(fetched, wiring.apart().call(read_oembed, calls), strict=True):
        if player is not None:
            row.facts = {**row.facts, "player": player.url, **({"ratio": str(player.ratio)} if player.ratio else {})}


def _with_chapters(
    rows: Sequence[Item], *, request_for: Callable[[str], FetchRequest], fetcher: FetchPortal, now: datetime
) -> set[Item]:
    """Fetch the chapters of episodes.

    Return the items that got some.
    """
    asked = [row for row in rows if str(row.facts.get("chapters") or "").startswith(("http://", "https://"))]
    addresses = [str(row.facts["chapters"]) for row in asked]
    answers = fetch_pages(addresses, request_for=request_for, fetcher=fetcher, now=now)
    fetched = [(row, answer) for row, answer in zip(asked, answers, strict=True) if isinstance(answer, Fetched)]
    read = wiring.apart().call(chapters_as_lines, [(answer.body,) for _, answer in fetched])
    chaptered = {row: lines for (row, _), lines in zip(fetched, read, strict=True) if lines}
    for row, lines in chaptered.items():
        row.facts = {**row.facts, "chapter_list": lines}
    return set(chaptered)


def _completed(
    source: Source, pages: Sequence[tuple[Item, Fetched]], now: datetime
) -> tuple[set[Item], dict[Item, str]]:
    """Complete items with longer texts of their pages.

    Returns all checked items, and the oEmbed addresses named by their pages.
    """
    embeds: dict[Item, str] = {}
    items = [captured.item for captured in as_captured([row for row, _ in pages])]
    more, where = source.full_text.words, _where_the_text_is(source)
    raws = [RawPage(body=answer.body, url=answer.url, content_type=answer.content_type) for _, answer in pages]
    repeated = compare(source.blog_id, raws)
    calls = [(raw, item, more, where, now, keys) for raw, item, keys in zip(raws, items, repeated, strict=True)]
    for (row, _), completed in zip(pages, wiring.apart().call(complete, calls), strict=True):
        row.page = "unread" if completed is None else completed.item.page
        embeds[row] = completed.oembed if completed is not None else ""
        if completed is not None and completed.features is not None:
            # Payload and hash stay those of the feed, so the next reading finds the item unchanged.
            row.body, row.summary = completed.item.body, completed.item.summary
            row.media = [asdict(medium) for medium in completed.item.media]
            set_features(row, completed.features)
    return {row for row, _ in pages}, embeds


def _has_own_picture(row: Item) -> bool:
    own = {MediaOrigin.FEED.value, MediaOrigin.ENCLOSURE.value}
    return any(medium["kind"] == MediaKind.PICTURE.value and medium["origin"] in own for medium in row.media)
