"""Reads about replays."""

from datetime import timedelta

from django.db.models import Count, QuerySet

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.problems import NotFound
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.replay.lifecycle import UNDER_WAY, Outcome
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.models import Decision

__all__ = [
    "active_replay",
    "last_replay",
    "left_by_outcome",
    "next_decisions",
    "replay_of",
    "result_of",
    "results_of",
    "still_new",
    "to_decide",
]

_BATCH = 200
_AT_ONE_TIME = timedelta(hours=1)
_DESK = [PostState.PUBLISHED.value, PostState.SCHEDULED.value, PostState.HELD.value, PostState.DRAFT.value]


def _open(campaign: Campaign) -> QuerySet[Decision]:
    """Return the decisions of a replay.

    Those of posts at the desk or published, and of items without a post. Posts refused or binned by people stay as they
    are.
    """
    rows = Decision.objects.filter(campaign=campaign)
    return rows.filter(post=None) | rows.filter(post__state__in=_DESK)


def to_decide(campaign: Campaign) -> int:
    """Count the decisions of a campaign's replay."""
    return _open(campaign).count()


def next_decisions(replay: Replay) -> list[Decision]:
    """Return the next decisions in their original order.

    At most two hundred, of one hour.
    """
    rows = _open(replay.campaign).filter(pk__gt=replay.last).order_by("pk").defer("trace", "reason")
    rows = rows.select_related(
        "item__source", "post__category", "post__byline", "post__blog", "post__revision"
    ).prefetch_related("post__categories", "post__tags")
    some = list(rows.defer("item__raw", "post__found_by")[:_BATCH])
    return [row for row in some if row.at - some[0].at < _AT_ONE_TIME]


def active_replay(campaign: Campaign) -> Replay | None:
    """Return the replay of a campaign under way.

    None for none.
    """
    return Replay.objects.filter(campaign=campaign, state__in=[state.value for state in UNDER_WAY]).first()


def last_replay(campaign: Campaign) -> Replay | None:
    """Return the latest replay of a campaign.

    None for none.
    """
    rows = Replay.objects.filter(campaign=campaign).select_related("campaign", "revision", "change", "task")
    return rows.order_by("-asked_at", "-pk").first()


def replay_of(blog: Blog, number: int) -> Replay:
    """Return one replay. Raises NotFound."""
    rows = Replay.objects.filter(campaign__blog=blog, pk=number)
    row = rows.select_related("campaign__blog", "revision", "change", "task").first()
    if row is None:
        raise NotFound("This blog has no such replay. It may have been removed.")
    return row


def results_of(replay: Replay, *, outcome: str = "", search: str = "") -> QuerySet[ReplayResult]:
    """Return the results of a replay that were not applied, in order."""
    rows = ReplayResult.objects.filter(replay=replay, applied=False).select_related("post")
    if outcome:
        rows = rows.filter(outcome=outcome)
    if search:
        rows = rows.filter(title__icontains=search)
    return rows.defer("post__body", "post__found_by").order_by("pk")


def left_by_outcome(replay: Replay) -> dict[str, int]:
    """Return how many results of each outcome were not applied."""
    done: dict[str, int] = {}
    if replay.change_id is not None:
        applied = ReplayResult.objects.filter(replay=replay, applied=True).order_by()
        done = dict(applied.values("outcome").annotate(number=Count("pk")).values_list("outcome", "number"))
    return {outcome.value: replay.counts.get(outcome.value, 0) - done.get(outcome.value, 0) for outcome in Outcome}


def result_of(replay: Replay, number: int) -> ReplayResult:
    """Return one result. Raises NotFound."""
    row = ReplayResult.objects.filter(replay=replay, pk=number).select_related("post").first()
    if row is None:
        raise NotFound("This replay has no such result.")
    return row


def still_new(replay: Replay) -> int:
    """Return how many chosen results of a replay are posts that are still to be written."""
    return ReplayResult.objects.filter(replay=replay, chosen=True, outcome=Outcome.NEW.value).count()
