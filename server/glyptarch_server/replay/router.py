"""The API of replays."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.campaigns.queries import campaign_of, latest_revision, revision_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.posts.changing import values_of
from glyptarch_server.posts.queries import post_of
from glyptarch_server.replay import actions, applying, queries
from glyptarch_server.replay.lifecycle import Outcome, ReplayState
from glyptarch_server.replay.schemas import (
    ApplyIn,
    ReplayIn,
    ReplayOut,
    ReplayResultOut,
    ReplayResultPageOut,
    ReplayValuesOut,
)
from glyptarch_server.tasks.actions import ask_to_stop

if TYPE_CHECKING:
    from glyptarch_server.replay.models import Replay, ReplayResult

__all__ = ["router"]

router = Router(tags=["replay"])


def _replay(row: "Replay") -> ReplayOut:
    return ReplayOut(
        id=row.pk,
        campaign=row.campaign.name,
        campaign_slug=row.campaign.slug,
        revision=row.revision.number,
        state=ReplayState(row.state),
        stop_asked=row.task.stop_asked if row.task else False,
        failure=row.failure,
        total=row.total,
        done=row.done,
        counts=queries.left_by_outcome(row),
        change=row.change_id,
        asked_at=row.asked_at,
        ended_at=row.ended_at,
    )


@router.post("/blogs/{blog}/campaigns/{slug}/replays", response=ReplayOut, operation_id="beginReplay")
def begin_replay(request: HttpRequest, blog: str, slug: str, payload: ReplayIn) -> ReplayOut:
    """Compare all past decisions of a campaign with a revision.

    Nothing is changed.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    campaign = campaign_of(owned, slug)
    revision = revision_of(campaign, payload.revision) if payload.revision else latest_revision(campaign)
    row = actions.begin_replay(campaign, revision, by=person_of(request), now=wiring.clock()())
    return _replay(queries.replay_of(owned, row.pk))


@router.get("/blogs/{blog}/campaigns/{slug}/replays/last", response=ReplayOut | None, operation_id="getLastReplay")
def get_last_replay(request: HttpRequest, blog: str, slug: str) -> ReplayOut | None:
    """Return the latest replay of a campaign.

    Null where there is none.
    """
    row = queries.last_replay(campaign_of(blog_for(request.user, blog), slug))
    return _replay(row) if row else None


@router.get("/blogs/{blog}/replays/{int:number}", response=ReplayOut, operation_id="getReplay")
def get_replay(request: HttpRequest, blog: str, number: RowNumber) -> ReplayOut:
    """Return the progress of a replay."""
    return _replay(queries.replay_of(blog_for(request.user, blog), number))


@router.post("/blogs/{blog}/replays/{int:number}/stop", response=ReplayOut, operation_id="stopReplay")
def stop_replay(request: HttpRequest, blog: str, number: RowNumber) -> ReplayOut:
    """Stop a replay after its present batch.

    Results so far stay.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    task = queries.replay_of(owned, number).task
    if task is not None:
        ask_to_stop(task, now=wiring.clock()())
    return _replay(queries.replay_of(owned, number))


def _result(row: "ReplayResult") -> ReplayResultOut:
    return ReplayResultOut(
        id=row.pk,
        outcome=Outcome(row.outcome),
        post=row.post_id,
        title=row.title,
        reason=row.reason,
        parts=sorted(row.values) if row.outcome == Outcome.CHANGED.value else [],
        kept=row.kept,
    )


@router.get(
    "/blogs/{blog}/replays/{int:number}/results", response=ReplayResultPageOut, operation_id="listReplayResults"
)
def list_replay_results(
    request: HttpRequest,
    blog: str,
    number: RowNumber,
    outcome: Outcome | None = None,
    search: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> ReplayResultPageOut:
    """Return the results of a replay that were not applied, item by item."""
    replay = queries.replay_of(blog_for(request.user, blog), number)
    rows = queries.results_of(replay, outcome=outcome.value if outcome else "", search=search)
    page, total = page_of(rows, limit=limit, offset=offset)
    return ReplayResultPageOut(rows=[_result(row) for row in page], total=total)


@router.get(
    "/blogs/{blog}/replays/{int:number}/results/{int:result}",
    response=ReplayValuesOut,
    operation_id="getReplayValues",
)
def get_replay_values(request: HttpRequest, blog: str, number: RowNumber, result: RowNumber) -> ReplayValuesOut:
    """Return the changed values of one post, before and after."""
    owned = blog_for(request.user, blog)
    row = queries.result_of(queries.replay_of(owned, number), result)
    current = values_of(post_of(owned, row.post_id)) if row.post_id else {}
    return ReplayValuesOut(before={name: current.get(name) for name in row.values}, after=row.values)


@router.post("/blogs/{blog}/replays/{int:number}/apply", response=ReplayOut, operation_id="applyReplay")
def apply_replay(request: HttpRequest, blog: str, number: RowNumber, payload: ApplyIn) -> ReplayOut:
    """Apply all or some results of a replay.

    This can be taken back as one change.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    replay = queries.replay_of(owned, number)
    applying.begin_applying(
        replay, outcomes=payload.outcomes, results=payload.results, by=person_of(request), now=wiring.clock()()
    )
    return _replay(queries.replay_of(owned, number))
