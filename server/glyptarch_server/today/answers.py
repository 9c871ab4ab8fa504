"""Today, put together from what the other apps know."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime, timedelta
from typing import TYPE_CHECKING
from zoneinfo import ZoneInfo

from django.db import transaction
from glyptarch_core.causes import cause_of
from glyptarch_core.health import Health
from glyptarch_core.offers import offers_of
from glyptarch_core.schedule import next_times

from glyptarch_server.campaigns.queries import listed_campaigns, schedule_of
from glyptarch_server.comments.queries import waiting_comments
from glyptarch_server.common.lookups import by_index, counts_of
from glyptarch_server.offers.queries import held_prices, old_prices
from glyptarch_server.posts.queries import campaign_counts, held_posts, latest_posts, open_corrections, out_since
from glyptarch_server.runs import queries as runs
from glyptarch_server.services.queries import trouble_of
from glyptarch_server.sources.queries import Trouble, items_by_day, listed_sources, troubles_of, worst_sources
from glyptarch_server.today.schemas import (
    DayOut,
    LatestPostOut,
    LineOut,
    MarkOut,
    NeedCode,
    NeedOut,
    TodayOut,
    TodaySourceOut,
)
from glyptarch_server.websub.announcing import failure_of_hub

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.campaigns.models import Campaign
    from glyptarch_server.runs.models import Run
    from glyptarch_server.sources.models import Source

__all__ = ["today_out"]

_BACK = timedelta(hours=18)
_AHEAD = timedelta(hours=6)
_DAYS = 14
_MOST_LINES = 10
_MOST_NEXT = 12
_MOST_SOURCES = 8
_MOST_LATEST = 4
_MOST_FAILED = 10
_MOST_TROUBLES = 8
_MOST_TITLES = 3
_END_NEAR = timedelta(days=3)
_KEPT = ("publish", "hold", "draft", "private", "scheduled")


def today_out(blog: "Blog", *, now: datetime) -> TodayOut:
    """Return the first screen of a blog's desk, all of it from one moment."""
    with transaction.atomic():
        return _today(blog, now=now)


def _today(blog: "Blog", *, now: datetime) -> TodayOut:
    zone = ZoneInfo(blog.time_zone)
    midnight = now.astimezone(zone).replace(hour=0, minute=0, second=0, microsecond=0)
    rows = listed_campaigns(blog)
    campaigns = list(runs.by_last_run(rows, sort="next")[:_MOST_LINES])
    done = runs.runs_since(campaigns, min(now - _BACK, midnight))
    counts = campaign_counts(campaigns)
    sources = worst_sources(blog, _MOST_SOURCES)
    days, document = items_by_day(sources, now=now), offers_of(blog.offers)
    with by_index():
        numbers = counts_of(
            campaigns=rows,
            out=out_since(blog, midnight),
            held=held_posts(blog),
            comments=waiting_comments(blog),
            corrections=open_corrections(blog),
            prices_held=held_prices(blog),
            prices_old=old_prices(blog, document, now),
        )
    return TodayOut(
        now=now,
        since=now - _BACK,
        until=now + _AHEAD,
        time_zone=blog.time_zone,
        out_today=numbers["out"],
        needs=list(_needs(blog, campaigns, numbers, now=now, zone=zone)),
        lines=[
            _line(row, done[row.pk], counts[row.pk].get("held", 0), now=now, midnight=midnight, zone=zone)
            for row in campaigns
        ],
        campaigns=numbers["campaigns"],
        latest=[
            LatestPostOut(
                id=post.pk,
                title=post.title,
                picture=post.lead_url,
                category=post.category.name if post.category else "",
                campaign=post.campaign.name if post.campaign else "",
                date=post.date,
            )
            for post in latest_posts(blog, _MOST_LATEST)
        ],
        days=_days(blog, midnight, zone),
        sources=[
            TodaySourceOut(
                key=source.key, title=source.title, health=Health(source.state.health), days=days.get(source.pk, [])
            )
            for source in sources
        ],
    )


def _posts_of(run: "Run") -> int:
    """Return how many posts a run has made, none where it was taken back."""
    return 0 if run.taken_back_at else sum(run.verdicts.get(verdict, 0) for verdict in _KEPT)


def _line(
    campaign: "Campaign", done: Sequence["Run"], held: int, *, now: datetime, midnight: datetime, zone: ZoneInfo
) -> LineOut:
    schedule = schedule_of(campaign)
    times = [] if campaign.paused else next_times(schedule, zone, now, _MOST_NEXT)
    return LineOut(
        slug=campaign.slug,
        name=campaign.name,
        schedule=schedule,
        paused=campaign.paused,
        runs=[
            MarkOut(run=run.pk, at=run.asked_at, posts=_posts_of(run), failed=run.state == "failed")
            for run in done
            if run.asked_at >= now - _BACK
        ],
        next=[time for time in times if time <= now + _AHEAD],
        made=sum(_posts_of(run) for run in done if run.asked_at >= midnight),
        held=held,
    )


_HEALTH_NEEDS = {
    Health.GONE: NeedCode.SOURCE_GONE,
    Health.FAILING: NeedCode.SOURCE_FAILING,
    Health.CHANGED: NeedCode.SOURCE_CHANGED,
    Health.QUIET: NeedCode.SOURCE_QUIET,
}


def _needs(
    blog: "Blog", campaigns: Sequence["Campaign"], numbers: Mapping[str, int], *, now: datetime, zone: ZoneInfo
) -> Iterator[NeedOut]:
    """Yield tasks for people, most urgent first."""
    needs = list(_source_needs(blog))
    failed = list(runs.by_last_run(listed_campaigns(blog), failed=True)[:_MOST_FAILED])
    for run in runs.last_runs(failed).values():
        data = {"run": run.pk, "campaign": run.campaign.name, "failure": run.failure}
        needs.append(NeedOut(code=NeedCode.RUN_FAILED, data=data))
    counted = (
        (NeedCode.POSTS_HELD, "held"),
        (NeedCode.COMMENTS, "comments"),
        (NeedCode.CORRECTIONS, "corrections"),
        (NeedCode.PRICES_HELD, "prices_held"),
        (NeedCode.PRICES_OLD, "prices_old"),
    )
    for code, name in counted:
        if numbers[name]:
            needs.append(NeedOut(code=code, data={"number": numbers[name]}))
    document = offers_of(blog.offers)
    if document.partners and not document.disclosure:
        needs.append(NeedOut(code=NeedCode.NO_DISCLOSURE, data={"number": len(document.partners)}))
    failure = failure_of_hub(blog)
    if failure:
        needs.append(NeedOut(code=NeedCode.HUB_FAILING, data={"hub": blog.hub, "failure": failure}))
    trouble = trouble_of(blog)
    if trouble is not None:
        service, texts = trouble
        data = {"service": service.name, "detail": service.detail, "texts": texts}
        needs.append(NeedOut(code=NeedCode.SERVICE_FAILING, data=data))
    today = now.astimezone(zone).date()
    for campaign in campaigns:
        last = schedule_of(campaign).last_day
        if campaign.next_run_at and last and today <= last <= today + _END_NEAR:
            data = {"slug": campaign.slug, "campaign": campaign.name, "day": last.isoformat()}
            needs.append(NeedOut(code=NeedCode.END_NEAR, data=data))
    order = list(NeedCode)
    yield from sorted(needs, key=lambda need: order.index(need.code))


def _source_needs(blog: "Blog") -> Iterator[NeedOut]:
    """Yield the troubles of sources, those of one host and cause together.

    The last says how many more there are.
    """
    troubles = troubles_of(blog)
    shown = troubles[:_MOST_TROUBLES]
    alone = [trouble.sources[0][0] for trouble in shown if len(trouble.sources) == 1]
    rows = {row.key: row for row in listed_sources(blog).filter(key__in=alone)}
    for trouble in shown:
        if len(trouble.sources) == 1:
            data = _source_data(rows[trouble.sources[0][0]])
            yield NeedOut(code=_HEALTH_NEEDS[trouble.health], data=data)
        else:
            yield NeedOut(code=NeedCode.SOURCES_FAILING, data=_trouble_data(trouble))
    left = sum(len(trouble.sources) for trouble in troubles[_MOST_TROUBLES:])
    if left:
        yield NeedOut(code=NeedCode.MORE_SOURCES, data={"number": left})


def _trouble_data(trouble: "Trouble") -> dict[str, object]:
    cause = cause_of(trouble.code)
    return {
        "number": len(trouble.sources),
        "host": trouble.host,
        "health": trouble.health.value,
        "says": cause.many,
        "remedy": cause.remedy,
        "since": trouble.since,
        "titles": [title for _, title in trouble.sources[:_MOST_TITLES]],
    }


def _source_data(source: "Source") -> dict[str, object]:
    return {
        "key": source.key,
        "title": source.title,
        "health": source.state.health,
        "health_data": source.state.health_data,
        "failing_since": source.state.failing_since,
        "next_read_at": source.state.next_read_at,
        "read_detail": source.read_detail or "",  # type: ignore[attr-defined]
        "remedy": cause_of(source.state.error).remedy if source.state.error else "",
    }


def _days(blog: "Blog", midnight: datetime, zone: ZoneInfo) -> list[DayOut]:
    first = (midnight - timedelta(days=_DAYS - 1)).date()
    counted: dict[str, dict[str, int]] = defaultdict(dict)
    begin = datetime.combine(first, datetime.min.time(), tzinfo=zone)
    for day, verdicts in runs.verdicts_by_day(blog, begin, zone).items():
        counted[day.isoformat()] = verdicts
    listed = []
    for number in range(_DAYS):
        day = first + timedelta(days=number)
        verdicts = counted[day.isoformat()]
        listed.append(
            DayOut(
                day=day,
                kept=sum(verdicts.get(verdict, 0) for verdict in ("publish", "private", "scheduled")),
                held=verdicts.get("hold", 0) + verdicts.get("draft", 0),
                duplicate=verdicts.get("duplicate", 0),
                refused=verdicts.get("refused", 0),
            )
        )
    return listed
