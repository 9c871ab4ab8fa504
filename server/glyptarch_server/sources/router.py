"""The API of sources."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from glyptarch_core.causes import cause_of
from glyptarch_core.health import Health
from glyptarch_core.item import Right
from glyptarch_core.readers.opml import ListedFeed, write_opml
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.pages.queries import reader_of
from glyptarch_server.platforms.queries import trouble_of
from glyptarch_server.sources import actions, adding, queries
from glyptarch_server.sources.access import access_of
from glyptarch_server.sources.checking import Checked, check_addresses
from glyptarch_server.sources.schemas import (
    AccessIn,
    AccessOfManyIn,
    AccessOut,
    AddPageSourceIn,
    AddPlatformSourceIn,
    AddressPatternIn,
    AddressPatternOut,
    AskedOut,
    AsksYaml,
    ChangeAsksIn,
    ChangedOut,
    ChangeManyIn,
    ChangeSourceIn,
    CheckedOut,
    CheckIn,
    ChosenIn,
    ChosenOut,
    FeedLinkOut,
    LastAskedOut,
    PickedSources,
    ReadingOut,
    ReadWarningOut,
    RightsOfManyIn,
    SampleOut,
    SourceDetailOut,
    SourceOut,
    SourcePageOut,
    SourceSearch,
    WordsLine,
)

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.sources.models import AddressPattern, PlatformAsk, Source

__all__ = ["router"]

router = Router(tags=["sources"])


def _asked(ask: "PlatformAsk | None") -> dict[str, Any]:
    """Return the fields of a source about its platform."""
    if ask is None:
        return {"platform": "", "connection": "", "connection_trouble": "", "parameters": {}, "search_words": []}
    return {
        "platform": ask.platform,
        "connection": ask.connection.key if ask.connection else "",
        "connection_trouble": trouble_of(ask.connection) if ask.connection else "",
        "parameters": ask.parameters,
        "search_words": [WordsLine(**line) for line in ask.search_words],
    }


def _sources(rows: "Sequence[Source]") -> list[SourceOut]:
    days = queries.items_by_day(rows, now=wiring.clock()())
    return [
        SourceOut(
            key=row.key,
            version=row.version,
            title=row.title,
            url=row.url,
            link=row.state.link,
            format=row.state.format,
            language=row.state.language,
            right=Right(row.right),
            right_said=row.right_said,
            right_words=row.right_words,
            attribution=row.attribution,
            keyword=row.keyword,
            reads_pages=row.reads_pages,
            full_text_words=row.full_text.words,
            text_reader=row.full_text.reader.key if row.full_text.reader else "",
            text_selector=row.full_text.selector,
            rendered=row.rendered,
            rendered_hosts=row.rendered_hosts,
            **_asked(row.ask),
            items=row.state.item_count,
            read_at=row.read_at,  # type: ignore[attr-defined]
            read_error=row.read_error or "",  # type: ignore[attr-defined]
            read_detail=row.read_detail or "",  # type: ignore[attr-defined]
            days=days.get(row.pk, []),
            health=Health(row.state.health),
            health_data=row.state.health_data,
            failing_since=row.state.failing_since,
            cause=cause_of(row.state.error).one if row.state.error else "",
            remedy=cause_of(row.state.error).remedy if row.state.error else "",
            next_read_at=row.state.next_read_at,
            labels=row.labels,
            paused=row.paused,
            blocked=row.blocked_at is not None,
            any_certificate=row.access.any_certificate,
            reader=row.reader.key if row.reader else "",
            in_doubt=row.state.in_doubt,
            former_url=row.former_url,
        )
        for row in rows
    ]


@router.post("/blogs/{blog}/page-sources", response=SourceOut, operation_id="addPageSource")
def add_page_source(request: HttpRequest, blog: str, payload: AddPageSourceIn) -> SourceOut:
    """Make a site a source, read by a page reader."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    reader = reader_of(owned, payload.reader)
    source = adding.add_page_source(
        owned,
        reader,
        payload.url,
        payload.title,
        right=payload.right,
        rendered=payload.rendered,
        now=wiring.clock()(),
    )
    return get_source(request, blog, source.key).source


@router.post("/blogs/{blog}/platform-sources", response=SourceOut, operation_id="addPlatformSource")
def add_platform_source(request: HttpRequest, blog: str, payload: AddPlatformSourceIn) -> SourceOut:
    """Add a platform source."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    source = adding.add_platform_source(
        owned,
        payload.platform,
        payload.title,
        connection=payload.connection,
        parameters=payload.parameters,
        search_words=[line.dict() for line in payload.search_words],
        right=payload.right,
        now=wiring.clock()(),
    )
    return get_source(request, blog, source.key).source


@router.put("/blogs/{blog}/sources/{key}/asks", response=SourceOut, operation_id="changeAsks")
def change_asks(request: HttpRequest, blog: str, key: str, payload: ChangeAsksIn) -> SourceOut:
    """Change a source's platform parameters."""
    source = queries.source_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.change_asks(
        source,
        connection=payload.connection,
        parameters=payload.parameters,
        search_words=[line.dict() for line in payload.search_words],
        begun=payload.version,
    )
    return get_source(request, blog, key).source


@router.get("/blogs/{blog}/sources/{key}/asks-yaml", response=AsksYaml, operation_id="exportAsks")
def export_asks(request: HttpRequest, blog: str, key: str) -> AsksYaml:
    """Return a source's platform parameters as YAML, without the connection."""
    return AsksYaml(yaml=actions.asks_as_yaml(queries.source_of(blog_for(request.user, blog), key)))


@router.post("/blogs/{blog}/asks-yaml", response=AskedOut, operation_id="readAsks")
def read_asks(request: HttpRequest, blog: str, payload: AsksYaml) -> AskedOut:
    """Parse and validate platform parameters from YAML.

    Nothing is saved.
    """
    blog_for(request.user, blog, Role.EDITOR)
    return AskedOut(**actions.asks_from_yaml(payload.yaml))


@router.get("/blogs/{blog}/last-asked/{platform}", response=LastAskedOut | None, operation_id="getLastAsked")
def get_last_asked(request: HttpRequest, blog: str, platform: str) -> LastAskedOut | None:
    """Return what the newest source on a platform asks for. Nothing where there is none yet."""
    source = queries.newest_on(blog_for(request.user, blog), platform)
    if source is None or source.ask is None:
        return None
    connection = source.ask.connection
    return LastAskedOut(
        source=source.title,
        connection=connection.key if connection and connection.removed_at is None else "",
        parameters=source.ask.parameters,
    )


@router.get("/blogs/{blog}/sources", response=SourcePageOut, operation_id="listSources")
def list_sources(
    request: HttpRequest,
    blog: str,
    search: str = "",
    sort: Literal["title", "added", "read", "health"] = "title",
    health: Health | None = None,
    label: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> SourcePageOut:
    """Return the sources of a blog."""
    owned = blog_for(request.user, blog)
    rows = queries.listed_sources(owned, search=search, sort=sort, health=health.value if health else "", label=label)
    page, total = page_of(rows, limit=limit, offset=offset)
    return SourcePageOut(rows=_sources(page), total=total, labels=queries.labels_of(owned))


_MOST_CHOSEN = 200


@router.post("/blogs/{blog}/chosen-sources", response=ChosenOut, operation_id="listChosenSources")
def list_chosen(request: HttpRequest, blog: str, payload: ChosenIn) -> ChosenOut:
    """Return the sources that rules name by their keys and labels."""
    owned = blog_for(request.user, blog)
    rows, total = page_of(queries.chosen_sources(owned, payload.keys, payload.labels), limit=_MOST_CHOSEN, offset=0)
    return ChosenOut(rows=_sources(rows), total=total, lost=queries.unknown_keys(owned, payload.keys))


@router.post("/blogs/{blog}/found-sources", response=list[str], operation_id="findSourceKeys")
def find_keys(request: HttpRequest, blog: str, payload: SourceSearch) -> list[str]:
    """Return the keys of all sources that a search finds, at most ten thousand."""
    owned = blog_for(request.user, blog)
    return [source.key for source in _found(owned, payload)]


def _found(blog: "Blog", found: SourceSearch) -> "list[Source]":
    health = found.health.value if found.health else ""
    return queries.all_found(blog, search=found.search, health=health, label=found.label)


@router.post("/blogs/{blog}/sources-together", response=ChangedOut, operation_id="changeSources")
def change_sources(request: HttpRequest, blog: str, payload: ChangeManyIn) -> ChangedOut:
    """Pause, resume, label, unlabel or remove several sources."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    changed = actions.change_many(owned, _picked(owned, payload), payload.change, payload.label, now=wiring.clock()())
    return ChangedOut(changed=changed)


@router.post("/blogs/{blog}/sources-together/rights", response=ChangedOut, operation_id="changeRightsOfSources")
def change_rights(request: HttpRequest, blog: str, payload: RightsOfManyIn) -> ChangedOut:
    """Set the same rights for several sources."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    changed = actions.set_rights_of_many(
        owned,
        _picked(owned, payload),
        right=payload.right,
        words=payload.right_words,
        attribution=payload.attribution,
        full_text_words=payload.full_text_words,
    )
    return ChangedOut(changed=changed)


@router.post("/blogs/{blog}/sources-together/access", response=ChangedOut, operation_id="changeAccessOfSources")
def change_access_of_many(request: HttpRequest, blog: str, payload: AccessOfManyIn) -> ChangedOut:
    """Change how several sources are asked."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    wanted = payload.model_dump(exclude={"keys", "found"}, exclude_none=True)
    return ChangedOut(changed=actions.set_access_of_many(owned, _picked(owned, payload), wanted))


def _picked(blog: "Blog", picked: PickedSources) -> "list[Source]":
    """Return the sources of a blog that somebody picked."""
    if picked.found is not None:
        return _found(blog, picked.found)
    return list(queries.sources_by_key(blog, picked.keys).values())


@router.get("/blogs/{blog}/sources/{key}/access", response=AccessOut, operation_id="getAccess")
def get_access(request: HttpRequest, blog: str, key: str) -> AccessOut:
    """Return the access of a source without its secrets."""
    source = queries.source_of(blog_for(request.user, blog, Role.EDITOR), key)
    access = access_of(source)
    return AccessOut(
        headers=[name for name, _ in access.headers],
        user=access.user,
        any_certificate=source.access.any_certificate,
        pause_ms=source.access.pause_ms,
        patience_s=source.access.patience_s,
        tries=source.access.tries,
    )


@router.put("/blogs/{blog}/sources/{key}/access", response=AccessOut, operation_id="changeAccess")
def change_access(request: HttpRequest, blog: str, key: str, payload: AccessIn) -> AccessOut:
    """Change the access of a source. Empty values and passwords keep the stored ones."""
    source = queries.source_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.change_access(source, **payload.model_dump())
    return get_access(request, blog, key)


def _checked(blog: "Blog", checked: Checked) -> CheckedOut:
    taken = queries.address_taken(blog, checked.url) if checked.feed else None
    feed = checked.feed
    return CheckedOut(
        address=checked.address,
        url=checked.url,
        format=feed.format if feed else "",
        title=feed.title if feed else "",
        items=len(feed.items) if feed else 0,
        samples=[SampleOut.model_validate(sample) for sample in checked.samples],
        fields=checked.fields,
        leads_to=[FeedLinkOut.model_validate(link) for link in checked.leads_to],
        warnings=[ReadWarningOut.model_validate(warning) for warning in (feed.warnings[:20] if feed else ())],
        error=checked.error,
        detail=checked.detail,
        remedy=cause_of(checked.error).remedy if checked.error else "",
        milliseconds=checked.milliseconds,
        known_as=taken.title if taken else "",
    )


@router.get("/blogs/{blog}/opml", operation_id="writeOpml")
def write_list(request: HttpRequest, blog: str, chosen: Annotated[str, Query(max_length=8000)] = "") -> HttpResponse:
    """Return sources as an OPML file, all or those in ``chosen`` (comma-separated keys)."""
    owned = blog_for(request.user, blog)
    feeds = [
        ListedFeed(url=source.url, title=source.title, link=source.state.link, folders=tuple(source.labels))
        for source in queries.addresses_of(owned).values()
        if source.reader_id is None and source.ask is None and (not chosen or source.key in chosen.split(","))
    ]
    written = write_opml(owned.title, feeds, now=wiring.clock()())
    named = f'attachment; filename="{owned.slug}.opml"'
    return HttpResponse(written, content_type="text/x-opml; charset=utf-8", headers={"Content-Disposition": named})


@router.post("/blogs/{blog}/sources/check", response=list[CheckedOut], operation_id="checkAddresses")
def check(request: HttpRequest, blog: str, payload: CheckIn) -> list[CheckedOut]:
    """Test addresses and return the result of each.

    Nothing is saved.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    return [_checked(owned, checked) for checked in check_addresses(payload.addresses, wiring.fetcher())]


@router.get("/blogs/{blog}/sources/{key}", response=SourceDetailOut, operation_id="getSource")
def get_source(request: HttpRequest, blog: str, key: str) -> SourceDetailOut:
    """Return a source with its latest readings."""
    owned = blog_for(request.user, blog)
    source = queries.source_of(owned, key)
    row = queries.listed_sources(owned).filter(pk=source.pk)[0]
    readings = [ReadingOut.model_validate(reading, from_attributes=True) for reading in queries.readings_of(source)]
    return SourceDetailOut(source=_sources([row])[0], readings=readings, saved_bytes=queries.saved_bytes(source))


@router.patch("/blogs/{blog}/sources/{key}", response=SourceOut, operation_id="changeSource")
def change_source(request: HttpRequest, blog: str, key: str, payload: ChangeSourceIn) -> SourceOut:
    """Change name and rights of a source.

    They apply to posts made from now on.
    """
    source = queries.source_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.change_source(
        source,
        payload.title,
        right=payload.right,
        words=payload.right_words,
        attribution=payload.attribution,
        keyword=payload.keyword,
        reads_pages=payload.reads_pages,
        full_text_words=payload.full_text_words,
        text_reader=payload.text_reader,
        text_selector=payload.text_selector,
        rendered=payload.rendered,
        rendered_hosts=payload.rendered_hosts,
        begun=payload.version,
    )
    return get_source(request, blog, key).source


@router.delete("/blogs/{blog}/sources/{key}", response={204: None}, operation_id="removeSource")
def remove_source(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a source.

    Its items and posts stay.
    """
    source = queries.source_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.remove_source(source, now=wiring.clock()())
    return 204, None


def _pattern(row: "AddressPattern") -> AddressPatternOut:
    return AddressPatternOut(id=row.pk, name=row.name, address=row.address, place=queries.place_of(row.address))


@router.get("/blogs/{blog}/address-patterns", response=list[AddressPatternOut], operation_id="listPatterns")
def list_patterns(request: HttpRequest, blog: str) -> list[AddressPatternOut]:
    """List the patterns that addresses of feeds follow."""
    return [_pattern(row) for row in queries.patterns_of(blog_for(request.user, blog))]


@router.post("/blogs/{blog}/address-patterns", response=AddressPatternOut, operation_id="keepPattern")
def keep_pattern(request: HttpRequest, blog: str, payload: AddressPatternIn) -> AddressPatternOut:
    """Store an address template of feeds."""
    return _pattern(actions.keep_pattern(blog_for(request.user, blog, Role.EDITOR), payload.name, payload.address))


@router.delete("/blogs/{blog}/address-patterns/{number}", response={204: None}, operation_id="removePattern")
def remove_pattern(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove an address template.

    Sources made with it stay.
    """
    actions.remove_pattern(blog_for(request.user, blog, Role.EDITOR), number)
    return 204, None
