"""Reads about sources."""

import re
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from urllib.parse import urlsplit

from django.db.models import Avg, Case, Count, OuterRef, Q, QuerySet, Subquery, When
from django.db.models.functions import TruncDate
from glyptarch_core.health import Health

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf, by_index
from glyptarch_server.common.problems import NotFound
from glyptarch_server.platforms.models import Connection
from glyptarch_server.sources.models import AddressPattern, PlatformAsk, Reading, Source, SourceState

__all__ = [
    "Trouble",
    "address_taken",
    "address_taken_by_id",
    "addresses_among",
    "addresses_of",
    "all_found",
    "chosen_sources",
    "items_by_day",
    "labels_of",
    "last_details",
    "listed_sources",
    "newest_items",
    "newest_on",
    "pattern_of",
    "patterns_of",
    "place_of",
    "readings_of",
    "saved_bytes",
    "shop_of",
    "source_keys",
    "source_of",
    "sources_by_key",
    "sources_labelled",
    "troubles_of",
    "unknown_keys",
    "worst_sources",
]

_WORST_FIRST = (Health.FAILING, Health.GONE, Health.CHANGED, Health.UNSTEADY, Health.QUIET, Health.UNREAD, Health.OK)
_MOST_AT_ONCE = 10_000
_SORTS = {"title": ("title", "pk"), "added": ("-added_at", "pk"), "read": ("-read_at", "title", "pk")}


def _active(blog: Blog) -> QuerySet[Source]:
    return Source.objects.filter(blog=blog, removed_at__isnull=True)


def listed_sources(
    blog: Blog, *, search: str = "", sort: str = "title", health: str = "", label: str = ""
) -> QuerySet[Source]:
    """Return the sources of a blog with their last reading.

    ``read_at``, ``read_error`` and ``read_detail``.
    """
    last = Reading.objects.filter(source=OuterRef("pk")).order_by("-at")
    rows = (
        _narrowed(_active(blog), search=search, health=health, label=label)
        .select_related("reader", "full_text_row__reader", "ask_row__connection")
        .annotate(
            read_at=Subquery(last.values("at")[:1]),
            read_error=Subquery(last.values("error")[:1]),
            read_detail=Subquery(last.values("detail")[:1]),
            read_found=Subquery(last.values("found")[:1]),
        )
    )
    if sort == "health":
        return rows.order_by(_by_health(), "title", "pk")
    return rows.order_by(*_SORTS.get(sort, _SORTS["title"]))


def _by_health() -> Case:
    """Order the worst health first."""
    return Case(*(When(state__health=name, then=place) for place, name in enumerate(_WORST_FIRST)), default=9)


def worst_sources(blog: Blog, most: int) -> list[Source]:
    """Return key, title and health of the sources of a blog whose health is worst."""
    rows = _active(blog).select_related(None).select_related("state").only("key", "title", "state__health")
    return list(rows.order_by(_by_health(), "title", "pk")[:most])


def _narrowed(rows: QuerySet[Source], *, search: str, health: str, label: str) -> QuerySet[Source]:
    if search:
        rows = rows.filter(Q(title__icontains=search) | Q(url__icontains=search))
    if health:
        rows = rows.filter(state__health=health)
    if label:
        rows = rows.filter(labels__contains=[label])
    return rows


def all_found(blog: Blog, *, search: str = "", health: str = "", label: str = "") -> list[Source]:
    """Return all sources that a list shows on its pages, at most ten thousand."""
    rows = _narrowed(_active(blog), search=search, health=health, label=label)
    return list(rows.order_by("pk")[:_MOST_AT_ONCE])


@dataclass(frozen=True, slots=True, kw_only=True)
class Trouble:
    """Sources of one host that need a person for one cause, by title.

    ``code`` is that of their cause (``causes.py`` in core), ``since`` the earliest failure. Changed and quiet sources
    have neither.
    """

    health: Health
    code: str = ""
    host: str = ""
    since: datetime | None = None
    sources: Sequence[tuple[str, str]]

    @property
    def key(self) -> str:
        """What stays the same while it lasts."""
        return f"source:{self.health.value}:{self.code}:{self.host or self.sources[0][0]}"[:80]


_NEEDS_A_PERSON = (Health.GONE, Health.FAILING, Health.CHANGED, Health.QUIET)


def troubles_of(blog: Blog) -> list[Trouble]:
    """Return the troubles of a blog's sources.

    The worst health comes first, then the largest, then the oldest.
    """
    rows = _active(blog).filter(paused=False, state__health__in=[health.value for health in _NEEDS_A_PERSON])
    columns = ("key", "title", "url", "state__health", "state__error", "state__failing_since")
    grouped: dict[tuple[Health, str, str], list[tuple[str, str]]] = {}
    since: dict[tuple[Health, str, str], datetime] = {}
    with by_index():
        # Without statistics, as after a list of feeds came in, PostgreSQL would compare all sources with all states.
        found = list(rows.order_by("title", "pk").values_list(*columns)[:_MOST_AT_ONCE])
    for key, title, url, health, code, failing_since in found:
        failed = health in {Health.GONE, Health.FAILING}
        group = (Health(health), code or "gone", urlsplit(url).netloc) if failed else (Health(health), "", key)
        grouped.setdefault(group, []).append((key, title))
        if failed and failing_since:
            since[group] = min(failing_since, since.get(group, failing_since))
    troubles = [
        Trouble(
            health=health, code=code, host=host if code else "", since=since.get((health, code, host)), sources=named
        )
        for (health, code, host), named in grouped.items()
    ]
    latest = datetime.max.replace(tzinfo=UTC)
    rank = {health: place for place, health in enumerate(_NEEDS_A_PERSON)}
    return sorted(troubles, key=lambda found: (rank[found.health], -len(found.sources), found.since or latest))


def load_states(sources: Iterable[Source]) -> None:
    """Load the states and the asks of sources that came with other rows, in one query."""
    sources = list(sources)
    without = [source for source in sources if not Source.state.is_cached(source)]
    rows = SourceState.objects.select_related("source__ask_row__connection") if without else SourceState.objects
    states = rows.in_bulk({source.pk for source in without})
    for source in without:
        state = states[source.pk]
        Source.ask_row.related.set_cached_value(source, state.source.ask)
        source.state = state
    _load_connections(ask for source in sources if (ask := source.ask) is not None)


def _load_connections(asks: Iterable[PlatformAsk]) -> None:
    without = [ask for ask in asks if ask.connection_id and not PlatformAsk.connection.is_cached(ask)]
    connections = Connection.objects.in_bulk({ask.connection_id for ask in without}) if without else {}
    for ask in without:
        ask.connection = connections[ask.connection_id]


def shop_of(source: Source) -> str:
    """Return the shop whose product numbers a source's items have.

    It is the source itself, or its connection, which other sources may share. A region has its own prices.
    """
    ask = source.ask
    if ask is None or ask.connection is None:
        return source.key
    region = str(ask.parameters.get("region") or "")
    return f"{ask.connection.key}@{region}" if region else ask.connection.key


def source_of(blog: Blog, key: str) -> Source:
    """Return one source. Raises NotFound."""
    source = _active(blog).filter(key=key).first()
    if source is None:
        raise NotFound(f"This blog has no source named “{key}”.")
    return source


def sources_by_key(blog: Blog, keys: Collection[str]) -> dict[str, Source]:
    """Return existing sources by key."""
    return {source.key: source for source in _active(blog).filter(AnyOf("key", list(keys)))}


def sources_labelled(blog: Blog, labels: Collection[str]) -> list[Source]:
    """Return the sources that have one of these labels, by title."""
    return list(_active(blog).filter(labels__overlap=list(labels)).order_by("title", "pk")[:_MOST_AT_ONCE])


def chosen_sources(blog: Blog, keys: Collection[str], labels: Collection[str]) -> QuerySet[Source]:
    """Return the sources that have one of these keys or labels, by title."""
    return listed_sources(blog).filter(Q(AnyOf("key", list(keys))) | Q(labels__overlap=list(labels)))


def unknown_keys(blog: Blog, keys: Collection[str]) -> list[str]:
    """Return those of these keys that name no source."""
    known = set(_active(blog).filter(AnyOf("key", list(keys))).values_list("key", flat=True))
    return [key for key in keys if key not in known]


def source_keys(blog: Blog, base: str) -> set[str]:
    """Return the keys with a prefix, removed sources included, since keys are never reused."""
    return set(Source.objects.filter(blog=blog, key__startswith=base).values_list("key", flat=True))


def address_taken(blog: Blog, url: str) -> Source | None:
    """Return the source that already reads this address.

    None for none.
    """
    return _active(blog).filter(url=url).first()


def addresses_among(blog: Blog, urls: Collection[str]) -> dict[str, Source]:
    """Return those of these addresses that a source reads already, each with its source."""
    return {source.url: source for source in _active(blog).filter(AnyOf("url", list(urls)))}


def address_taken_by_id(blog: int, url: str) -> Source | None:
    """Return the source of a blog, given by number, that already reads this address."""
    return Source.objects.filter(blog=blog, url=url, removed_at=None).first()


def labels_of(blog: Blog) -> list[str]:
    """Return the labels of a blog's sources in alphabetical order."""
    rows = _active(blog).exclude(labels=[]).values_list("labels", flat=True)[:_MOST_LISTED]
    return sorted({label for labels in rows for label in labels})


def saved_bytes(source: Source) -> int:
    """Return an estimate of the bytes saved by unchanged answers.

    Each counts as an average full answer.
    """
    counted = source.readings.aggregate(
        unchanged=Count("pk", filter=Q(not_modified=True)), whole=Avg("size", filter=Q(size__gt=0))
    )
    return round((counted["unchanged"] or 0) * (counted["whole"] or 0))


def readings_of(source: Source, *, limit: int = 30) -> Sequence[Reading]:
    """Return the latest readings, newest first."""
    return list(source.readings.order_by("-at", "-pk")[:limit])


_MOST_LISTED = 5_000


def addresses_of(blog: Blog) -> dict[str, Source]:
    """Return the first 5,000 sources of a blog by address."""
    return {source.url: source for source in _active(blog).order_by("title", "pk")[:_MOST_LISTED]}


def last_details(sources: Collection[Source]) -> dict[int, str]:
    """Return the error text of each source's last reading, by source number."""
    last = Reading.objects.filter(source__in=list(sources)).order_by("source", "-at", "-pk").distinct("source")
    return dict(last.values_list("source", "detail"))


def newest_items(sources: Collection[Source]) -> dict[int, tuple[int, datetime | None]]:
    """Return the number of items and the newest date, by source number."""
    dated = Source.objects.filter(pk=OuterRef("pk"), items__isnull=False).order_by("-items__dated")
    rows = Source.objects.filter(pk__in=[source.pk for source in sources]).annotate(
        newest=Subquery(dated.values("items__dated")[:1])
    )
    return {pk: (number, moment) for pk, number, moment in rows.values_list("pk", "state__item_count", "newest")}


def items_by_day(sources: Collection[Source], *, now: datetime, days: int = 14) -> dict[int, list[int]]:
    """Return the number of items on each of the last days, oldest first, by source number."""
    first = (now - timedelta(days=days - 1)).replace(hour=0, minute=0, second=0, microsecond=0)
    keys = [source.pk for source in sources]
    rows = (
        Source.objects.select_related(None)
        .filter(pk__in=keys, items__dated__gte=first)
        .values("pk", day=TruncDate("items__dated"))
        .annotate(number=Count("items__dated"))
    )
    counts = {key: [0] * days for key in keys}
    for row in rows:
        place = (row["day"] - first.date()).days
        if 0 <= place < days:
            counts[row["pk"]][place] = row["number"]
    return counts


_PLACE = re.compile(r"\{(\w{1,40})\}")
_MOST_PATTERNS = 100


def place_of(address: str) -> str:
    """Return the placeholder of an address template.

    Empty where there is not exactly one.
    """
    places = _PLACE.findall(address)
    rest = _PLACE.sub("", address)
    return places[0] if len(places) == 1 and "{" not in rest and "}" not in rest else ""


def patterns_of(blog: Blog) -> QuerySet[AddressPattern]:
    """Return the address templates of a blog by name, at most a hundred."""
    return AddressPattern.objects.filter(blog=blog).order_by("name")[:_MOST_PATTERNS]


def pattern_of(blog: Blog, number: int) -> AddressPattern:
    """Return an address template by its number. Raises NotFound."""
    row = AddressPattern.objects.filter(blog=blog, pk=number).first()
    if row is None:
        raise NotFound("There is no such pattern in this blog.")
    return row


def newest_on(blog: Blog, platform: str) -> Source | None:
    """Return the newest source of a blog on a platform, removed ones too.

    None where there is none.
    """
    rows = Source.objects.filter(blog=blog, ask_row__platform=platform)
    return rows.select_related("ask_row__connection").order_by("-added_at", "-pk").first()
