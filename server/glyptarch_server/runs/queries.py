"""Reads about runs and decisions."""

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from django.db.models import Count, Exists, F, IntegerField, OuterRef, Q, QuerySet, Subquery, Sum
from django.db.models.fields.json import KeyTextTransform
from django.db.models.functions import Cast, TruncDate
from glyptarch_core.checkup import ReasonCount
from glyptarch_core.draft import Visibility
from glyptarch_core.release import Order
from glyptarch_core.trace import Verdict

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import TEXTS, items_of
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Correction, Post
from glyptarch_server.runs.lifecycle import ACTIVE, RunState
from glyptarch_server.runs.models import Decision, RuleUse, Run, TextWait
from glyptarch_server.services.queries import has_answers_since
from glyptarch_server.sources.models import Source

__all__ = [
    "VERDICTS",
    "LatelyDecided",
    "active_run",
    "by_last_run",
    "comments_under",
    "correction_of",
    "decided_count",
    "decided_items",
    "decision_of",
    "decision_of_post",
    "forgettable",
    "found_decisions",
    "got_texts",
    "idle_days",
    "is_wanted",
    "last_done_before",
    "last_runs",
    "lately_decided",
    "lately_run",
    "listed_decisions",
    "listed_runs",
    "lock_of",
    "made_in",
    "not_met_yet",
    "readings_of_run",
    "run_of",
    "runs_since",
    "undecided",
    "under_way",
    "verdicts_by_day",
    "waiting_for_texts",
]

VERDICTS = tuple(verdict.value for verdict in Verdict if verdict is not Verdict.WAITING)
"""Every verdict that is put on record."""

_ACTIVE = [state.value for state in ACTIVE]


def _with_names(runs: QuerySet[Run]) -> QuerySet[Run]:
    return runs.select_related("campaign__blog", "revision", "started_by", "task").defer("revision__document")


def run_of(blog: Blog, run_id: int) -> Run:
    """Return one run. Raises NotFound."""
    run = _with_names(Run.objects.filter(campaign__blog=blog, pk=run_id)).first()
    if run is None:
        raise NotFound("This blog has no such run.")
    return run


_UNDER_WAY = "under_way"


def listed_runs(blog: Blog, *, campaign: str = "", state: str = "", search: str = "") -> QuerySet[Run]:
    """Return runs, newest first, by campaign, state or search.

    ``under_way`` means every state before the end. A search covers the name of the campaign, the person, and the reason
    of a failure.
    """
    rows = Run.objects.filter(campaign__blog=blog)
    if campaign:
        rows = rows.filter(campaign__slug=campaign)
    if state:
        rows = rows.filter(ended_at=None) if state == _UNDER_WAY else rows.filter(state=state)
    if search:
        named = Q(campaign__name__icontains=search) | Q(failure__icontains=search)
        rows = rows.filter(named | Q(started_by__first_name__icontains=search))
    return _with_names(rows).order_by("-asked_at", "-pk")


def by_last_run(rows: QuerySet[Campaign], *, failed: bool = False, sort: str = "name") -> QuerySet[Campaign]:
    """Sort campaigns by ``name``, last ``run``, ``next`` run, or ``newest`` first.

    With ``failed`` only campaigns whose last run failed are returned.
    """
    last = Run.objects.filter(campaign=OuterRef("pk")).order_by("-asked_at")
    if failed:
        rows = rows.annotate(last_state=Subquery(last.values("state")[:1])).filter(last_state=RunState.FAILED.value)
    if sort == "run":
        ran = F("ran_at").desc(nulls_last=True)
        return rows.annotate(ran_at=Subquery(last.values("asked_at")[:1])).order_by(ran, "name", "pk")
    if sort == "next":
        return rows.order_by(F("next_run_at").asc(nulls_last=True), "name", "pk")
    return rows.order_by("-created_at", "-pk") if sort == "newest" else rows


def last_runs(campaigns: Collection[Campaign]) -> dict[int, Run]:
    """Return the latest run by campaign number."""
    newest = (
        Run.objects.filter(campaign__in=list(campaigns))
        .order_by("campaign", "-asked_at", "-pk")
        .distinct("campaign")
        .values("pk")
    )
    return {run.campaign_id: run for run in _with_names(Run.objects.filter(pk__in=newest))}


_LATELY = 5
"""How many of its last runs a campaign is judged by."""


@dataclass(frozen=True, slots=True)
class LatelyDecided:
    """The results of a campaign's last runs: verdicts, reasons, and posts by state."""

    last: Run | None
    verdicts: Mapping[str, int]
    reasons: Sequence[ReasonCount]
    posts: Mapping[str, int]


def lately_decided(campaign: Campaign) -> LatelyDecided:
    """Return the results of a campaign's last five runs.

    Private posts are counted apart.
    """
    runs = list(_with_names(Run.objects.filter(campaign=campaign)).order_by("-asked_at", "-pk")[:_LATELY])
    decisions = Decision.objects.filter(run__in=runs)
    verdicts: Counter[str] = Counter()
    for run in runs:
        verdicts.update(run.verdicts)
    left = decisions.filter(verdict__in=["refused", "duplicate"]).values_list(
        "reason__stage", "reason__code", "reason__rule", "reason__rule_title"
    )
    reasons = [
        ReasonCount(stage=stage or "", code=code or "", rule=rule or "", rule_title=title or "", count=number)
        for stage, code, rule, title, number in left.annotate(number=Count("*")).order_by("-number")[:_LATELY]
    ]
    posts: Counter[str] = Counter()
    kept = decisions.filter(post__isnull=False).values_list("post__state", "post__visibility")
    for state, visibility, number in kept.annotate(number=Count("*")):
        hidden = state == "published" and visibility == Visibility.PRIVATE.value
        posts["private" if hidden else state] += number
    return LatelyDecided(runs[0] if runs else None, verdicts, reasons, posts)


_MOST_MARKS = 3000


def runs_since(campaigns: Collection[Campaign], since: datetime) -> dict[int, list[Run]]:
    """Return the newest 3,000 runs of campaigns since a time, oldest first, by campaign number."""
    runs: dict[int, list[Run]] = {campaign.pk: [] for campaign in campaigns}
    rows = Run.objects.filter(campaign__in=list(campaigns), asked_at__gte=since).order_by("-asked_at", "-pk")
    for run in reversed(rows.only("campaign", "asked_at", "state", "verdicts", "taken_back_at")[:_MOST_MARKS]):
        runs[run.campaign_id].append(run)
    return runs


def verdicts_by_day(blog: Blog, since: datetime, zone: ZoneInfo) -> dict[date, dict[str, int]]:
    """Return the verdicts of a blog's runs, by the day of their start in a time zone."""
    campaigns = Campaign.objects.filter(blog=blog).values("pk")
    rows = Run.objects.filter(campaign__in=campaigns, asked_at__gte=since)
    sums = {
        verdict: Sum(Cast(KeyTextTransform(verdict, "verdicts"), IntegerField()), default=0) for verdict in VERDICTS
    }
    days = rows.values(day=TruncDate("asked_at", tzinfo=zone)).annotate(**sums)
    return {row[0]: dict(zip(VERDICTS, row[1:], strict=True)) for row in days.values_list("day", *VERDICTS)}


def lately_run(most: int) -> list[Campaign]:
    """Return the campaigns of all blogs with the latest runs."""
    recent = Run.objects.filter(campaign__removed_at__isnull=True).order_by("-pk").select_related("campaign__blog")
    return list({run.campaign_id: run.campaign for run in recent[: most * 10]}.values())[:most]


def lock_of(campaign_id: int) -> str:
    """Return the lock of all tasks that make or remove posts of a campaign."""
    return f"campaign:{campaign_id}"


def active_run(campaign: Campaign) -> Run | None:
    """Return the run of a campaign under way.

    None for none.
    """
    return Run.objects.filter(campaign=campaign, state__in=_ACTIVE).first()


def is_wanted(run: Run) -> bool:
    """Whether the campaign of a run is still there.

    For a run that a schedule began, also whether the campaign is not paused.
    """
    rows = Campaign.objects.filter(pk=run.campaign_id, removed_at=None)
    return (rows.filter(paused=False) if run.scheduled else rows).exists()


def under_way(blog: Blog) -> int:
    """Return the number of a blog's runs under way."""
    return Run.objects.filter(campaign__blog=blog, state__in=_ACTIVE).count()


_ORDERS = {
    Order.OLDEST: ("dated", "pk"),
    Order.NEWEST: ("-dated", "pk"),
    Order.RANDOM: ("identity_hash", "pk"),
}


_COUNTS = ~Q(post__state=PostState.BINNED.value, post__marker=False)
"""Decisions that count: not those of posts that were binned without a marker, whose items may come back."""


def decided_items(campaign: Campaign, items: Collection[int]) -> set[int]:
    """Return the items that this campaign has decided."""
    rows = Decision.objects.filter(_COUNTS, AnyOf("item_id", items), campaign=campaign)
    return set(rows.values_list("item_id", flat=True))


def got_texts(campaign: Campaign) -> bool:
    """Whether language services have answered texts of a campaign since its last run ended."""
    last = Run.objects.filter(campaign=campaign).order_by("-pk").first()
    return last is not None and last.ended_at is not None and has_answers_since(campaign.pk, last.ended_at)


def waiting_for_texts(blog_id: int) -> list[Campaign]:
    """Return the campaigns whose last run left items that wait for texts, at most 200."""
    last = Run.objects.filter(campaign=OuterRef("pk")).order_by("-asked_at", "-pk").values("texts_waiting")[:1]
    rows = Campaign.objects.filter(blog=blog_id, removed_at=None).annotate(left=Subquery(last))
    return list(rows.filter(left__gt=0).select_related("blog")[:_MOST_WAITING])


_MOST_WAITING = 200


def undecided(campaign: Campaign, sources: Sequence[Source], order: Order = Order.OLDEST) -> QuerySet[Item]:
    """Return the items of the sources that this campaign has not decided, in processing order."""
    decided = Decision.objects.filter(_COUNTS, campaign=campaign, item=OuterRef("pk"))
    return items_of(sources).filter(~Exists(decided)).order_by(*_ORDERS[order])


def not_met_yet(run: Run, rows: QuerySet[Item]) -> QuerySet[Item]:
    """Leave out the items that this run has met, and that wait for texts of language services."""
    return rows.filter(~Exists(TextWait.objects.filter(run=run, item=OuterRef("pk"))))


def last_done_before(run: Run) -> datetime | None:
    """Return when the campaign's last complete run before this one was asked for."""
    rows = Run.objects.filter(campaign=run.campaign, state=RunState.DONE.value, pk__lt=run.pk)
    return rows.order_by("-asked_at").values_list("asked_at", flat=True).first()


def correction_of(post: Post) -> Correction | None:
    """Return what the source of a published post has corrected."""
    return Correction.objects.filter(post=post).first()


def made_in(run: Run) -> int:
    """Return the number of posts that a run has made."""
    return run.decisions.filter(left_at="").count()


def decided_count(campaign: Campaign, items: Collection[int]) -> int:
    """Return how many of some items this campaign has decided."""
    return len(decided_items(campaign, items))


def comments_under(campaign: Campaign) -> int:
    """Count the comments that readers left under the posts of a campaign."""
    return Post.objects.filter(campaign=campaign, readers_comments__isnull=False).values("readers_comments").count()


_MARKERS = [PostState.REFUSED.value, PostState.GONE.value]


def forgettable(campaign: Campaign, items: Collection[int] | None = None) -> QuerySet[Decision]:
    """Return the decisions without a present post.

    Of all items those of refused ones and duplicates; of some ``items`` also of those that people refused by hand.
    """
    rows = Decision.objects.filter(campaign=campaign)
    if items is None:
        return rows.filter(post__isnull=True)
    return rows.filter(Q(post__isnull=True) | Q(post__state__in=_MARKERS), AnyOf("item_id", items))


def idle_days(campaign: Campaign, *, now: datetime) -> dict[str, int]:
    """Return by rule of a campaign the number of days in which it was against nothing."""
    rows = RuleUse.objects.filter(campaign=campaign).values_list("rule", "since", "last")
    return {rule: max(0, (now - (last or since)).days) for rule, since, last in rows}


def listed_decisions(run: Run, *, verdict: str = "", search: str = "") -> QuerySet[Decision]:
    """Return the decisions of a run without their traces."""
    rows = run.decisions.select_related("item__source", "post", "campaign").defer(
        "trace", "post__body", *(f"item__{column}" for column in TEXTS)
    )
    if verdict:
        rows = rows.filter(verdict=verdict)
    if search:
        rows = rows.filter(item__title__icontains=search)
    return rows.order_by("pk")


OUTCOMES: Mapping[str, tuple[str, ...]] = {
    "kept": ("publish", "private", "scheduled"),
    "held": ("hold", "draft"),
    "duplicate": ("duplicate",),
    "refused": ("refused",),
}
"""What is counted together by day, and the verdicts that it stands for."""


def found_decisions(
    blog: Blog, *, day: date | None = None, outcome: str = "", search: str = "", campaign: str = ""
) -> QuerySet[Decision]:
    """Return decisions of all runs of a blog without their traces, latest first.

    ``day`` is that of the run's start, in the time zone of the blog; a search covers titles of items.
    """
    rows = Decision.objects.filter(campaign__blog=blog)
    if campaign:
        rows = rows.filter(campaign__slug=campaign)
    if day is not None:
        begin = datetime.combine(day, datetime.min.time(), tzinfo=ZoneInfo(blog.time_zone))
        end = datetime.combine(day + timedelta(days=1), datetime.min.time(), tzinfo=ZoneInfo(blog.time_zone))
        runs = Run.objects.filter(campaign__blog=blog, asked_at__gte=begin, asked_at__lt=end)
        rows = rows.filter(run__in=list(runs.values_list("pk", flat=True)))
    if outcome:
        rows = rows.filter(verdict__in=OUTCOMES[outcome])
    if search:
        rows = rows.filter(item__title__icontains=search)
    rows = rows.select_related("item__source", "post", "campaign")
    return rows.defer("trace", "post__body", *(f"item__{column}" for column in TEXTS)).order_by("-pk")


def _with_item(rows: QuerySet[Decision]) -> QuerySet[Decision]:
    return rows.select_related("item__source", "post", "run__revision", "campaign")


def decision_of(blog: Blog, decision_id: int) -> Decision:
    """Return one decision with its trace. Raises NotFound."""
    decision = _with_item(Decision.objects.filter(campaign__blog=blog, pk=decision_id)).first()
    if decision is None:
        raise NotFound("This blog has no such decision.")
    return decision


def decision_of_post(blog: Blog, post_id: int) -> Decision:
    """Return the decision of a post. Raises NotFound."""
    decision = _with_item(Decision.objects.filter(campaign__blog=blog, post=post_id)).first()
    if decision is None:
        raise NotFound("This post has no decision on record.")
    return decision


def readings_of_run(run: Run) -> Sequence[object]:
    """Return the readings of a run with their sources."""
    return list(run.readings.select_related("source").order_by("source__title")[:200])
