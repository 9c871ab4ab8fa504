"""The API of campaigns in the list, runs and decisions."""

from collections import Counter
from dataclasses import asdict
from datetime import date
from typing import Literal

from django.http import HttpRequest
from glyptarch_core.release import ReleaseMode
from glyptarch_core.trace import Verdict
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blogs.queries import Role, blog_for, blog_numbers_of
from glyptarch_server.campaigns.queries import any_campaign_of, by_schedule, campaign_of, listed_campaigns, schedule_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, SEARCHED, Limit, Offset, page_of
from glyptarch_server.posts.changing import values_of
from glyptarch_server.posts.queries import campaign_counts, campaign_days, post_of
from glyptarch_server.posts.schemas import TouchedOut
from glyptarch_server.runs import actions, corrections, letting, queries, undoing
from glyptarch_server.runs.answers import decision_out, decision_rows, run_out
from glyptarch_server.runs.checkup import check_campaign
from glyptarch_server.runs.deletion import ask_to_delete, goes_with
from glyptarch_server.runs.schemas import (
    AgainOut,
    CampaignPageOut,
    CampaignRowOut,
    ChosenItemsIn,
    CorrectionIn,
    CorrectionOut,
    DecisionOut,
    DecisionPageOut,
    FindingOut,
    ForgetOut,
    GoesWithItOut,
    LetThroughOut,
    RunOut,
    RunPageOut,
    SpareIn,
)
from glyptarch_server.tasks.actions import ask_to_stop

__all__ = ["router"]

router = Router(tags=["runs"])

_Schedule = Literal["", "scheduled", "paused", "hand"]
_MOST_FOUND = 5000


@router.get("/blogs/{blog}/campaign-overview", response=CampaignPageOut, operation_id="listCampaigns")
def list_campaigns(
    request: HttpRequest,
    blog: str,
    search: str = "",
    mode: ReleaseMode | None = None,
    failed: bool = False,  # noqa: FBT001 - a parameter of the address
    sort: Literal["name", "run", "next", "newest"] = "name",
    state: _Schedule = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> CampaignPageOut:
    """Return the campaigns of a blog, each with its last run and its posts."""
    owned = blog_for(request.user, blog)
    campaigns = listed_campaigns(owned, search=search, mode=mode.value if mode else "")
    rows = queries.by_last_run(by_schedule(campaigns, state), failed=failed, sort=sort)
    page, total = page_of(rows, limit=limit, offset=offset)
    last, counts = queries.last_runs(page), campaign_counts(page)
    days = campaign_days(page, now=wiring.clock()())
    listed = []
    for row in page:
        document, number = row.document, row.number  # type: ignore[attr-defined]
        listed.append(
            CampaignRowOut(
                slug=row.slug,
                name=row.name,
                revision=number,
                sources=len(document["gather"]["sources"]),
                mode=document["release"]["mode"],
                category=document["place"]["category"],
                published=counts[row.pk].get("published", 0),
                held=counts[row.pk].get("held", 0),
                days=days[row.pk],
                last_run=run_out(last[row.pk]) if row.pk in last else None,
                schedule=schedule_of(row),
                paused=row.paused,
                next_run_at=row.next_run_at,
                time_zone=owned.time_zone,
            )
        )
    return CampaignPageOut(rows=listed, total=total)


@router.get("/blogs/{blog}/found-campaigns", response=list[str], operation_id="findCampaignSlugs")
def find_slugs(
    request: HttpRequest,
    blog: str,
    search: str = "",
    mode: ReleaseMode | None = None,
    failed: bool = False,  # noqa: FBT001 - a parameter of the address
    state: _Schedule = "",
) -> list[str]:
    """Return the slugs of all campaigns that a search finds, at most 5,000."""
    campaigns = listed_campaigns(blog_for(request.user, blog), search=search, mode=mode.value if mode else "")
    rows = queries.by_last_run(by_schedule(campaigns, state), failed=failed)
    return list(rows.values_list("slug", flat=True)[:_MOST_FOUND])


@router.get("/blogs/{blog}/campaigns/{slug}/checkup", response=list[FindingOut], operation_id="checkCampaign")
def check(request: HttpRequest, blog: str, slug: str) -> list[FindingOut]:
    """Check every step of a campaign from the address to the blog.

    The first STOP blocks all items.
    """
    campaign = campaign_of(blog_for(request.user, blog), slug)
    findings = check_campaign(campaign)
    return [
        FindingOut(step=finding.step, state=finding.state, code=finding.code, data=dict(finding.data))
        for finding in findings
    ]


@router.post("/blogs/{blog}/campaigns/{slug}/runs", response=RunOut, operation_id="beginRun")
def begin_run(request: HttpRequest, blog: str, slug: str) -> RunOut:
    """Run a campaign by its saved rules."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    run = actions.begin_run(campaign_of(owned, slug), by=person_of(request), now=wiring.clock()())
    return run_out(queries.run_of(owned, run.pk))


@router.get("/blogs/{blog}/runs", response=RunPageOut, operation_id="listRuns")
def list_runs(
    request: HttpRequest,
    blog: str,
    campaign: str = "",
    state: Literal["", "under_way", "done", "stopped", "failed"] = "",
    search: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> RunPageOut:
    """Return runs, newest first.

    A search covers campaigns, people, and reasons of failure.
    """
    owned = blog_for(request.user, blog)
    rows = queries.listed_runs(owned, campaign=campaign, state=state, search=search)
    page, total = page_of(rows, limit=limit, offset=offset, most=SEARCHED if search else None)
    return RunPageOut(rows=[run_out(run) for run in page], total=total, under_way=queries.under_way(owned))


@router.get("/blogs/{blog}/runs/{int:run_id}", response=RunOut, operation_id="getRun")
def get_run(request: HttpRequest, blog: str, run_id: int) -> RunOut:
    """Return one run with its readings."""
    run = queries.run_of(blog_for(request.user, blog), run_id)
    return run_out(run, readings=queries.readings_of_run(run))


@router.post("/blogs/{blog}/runs/{int:run_id}/stop", response=RunOut, operation_id="stopRun")
def stop_run(request: HttpRequest, blog: str, run_id: int) -> RunOut:
    """Ask a run to end after its present batch."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    task = queries.run_of(owned, run_id).task
    if task is not None:
        ask_to_stop(task, now=wiring.clock()())
    return run_out(queries.run_of(owned, run_id))


@router.get("/blogs/{blog}/runs/{int:run_id}/take-back", response=TouchedOut, operation_id="countRunPosts")
def count_run_posts(request: HttpRequest, blog: str, run_id: RowNumber) -> TouchedOut:
    """Return counts of the posts removed by undoing a run."""
    run = queries.run_of(blog_for(request.user, blog), run_id)
    return TouchedOut(**asdict(undoing.would_go(run)))


@router.post("/blogs/{blog}/runs/{int:run_id}/take-back", response=RunOut, operation_id="takeBackRun")
def take_back_run(request: HttpRequest, blog: str, run_id: RowNumber, payload: SpareIn) -> RunOut:
    """Put the posts of a run into the bin, and let its items be undecided again."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    undoing.take_back_run(queries.run_of(owned, run_id), spare=payload.spare, now=wiring.clock()())
    return run_out(queries.run_of(owned, run_id))


@router.get("/blogs/{blog}/campaigns/{slug}/again", response=TouchedOut, operation_id="countCampaignPosts")
def count_campaign_posts(request: HttpRequest, blog: str, slug: str) -> TouchedOut:
    """Return counts of the posts removed by importing a campaign again."""
    campaign = campaign_of(blog_for(request.user, blog), slug)
    return TouchedOut(**asdict(undoing.would_go_with(campaign)))


@router.post("/blogs/{blog}/campaigns/{slug}/again", response=AgainOut, operation_id="againFromNothing")
def again_from_nothing(request: HttpRequest, blog: str, slug: str, payload: SpareIn) -> AgainOut:
    """Bin all posts of a campaign without markers, forget its decisions, and run it."""
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    change, run = undoing.again_from_nothing(campaign, by=person_of(request), spare=payload.spare, now=wiring.clock()())
    return AgainOut(change=change.pk, run=run.pk)


@router.get("/blogs/{blog}/runs/{int:run_id}/decisions", response=DecisionPageOut, operation_id="listDecisions")
def list_decisions(
    request: HttpRequest,
    blog: str,
    run_id: int,
    verdict: Verdict | None = None,
    search: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> DecisionPageOut:
    """Return the decisions of a run."""
    run = queries.run_of(blog_for(request.user, blog), run_id)
    rows = queries.listed_decisions(run, verdict=verdict.value if verdict else "", search=search)
    page, total = page_of(rows, limit=limit, offset=offset)
    return DecisionPageOut(rows=decision_rows(page, blogs=blog_numbers_of(request.user)), total=total)


@router.get("/blogs/{blog}/decisions", response=DecisionPageOut, operation_id="findDecisions")
def find_decisions(
    request: HttpRequest,
    blog: str,
    day: date | None = None,
    outcome: Literal["", "kept", "held", "duplicate", "refused"] = "",
    search: str = "",
    campaign: str = "",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> DecisionPageOut:
    """Return up to a thousand decisions of all runs, latest first.

    Filter by day, outcome, campaign, or words of a title.
    """
    owned = blog_for(request.user, blog)
    rows = queries.found_decisions(owned, day=day, outcome=outcome, search=search, campaign=campaign)
    page, total = page_of(rows, limit=limit, offset=offset, most=SEARCHED)
    return DecisionPageOut(rows=decision_rows(page, blogs=blog_numbers_of(request.user)), total=total)


@router.get("/blogs/{blog}/decisions/{int:decision_id}", response=DecisionOut, operation_id="getDecision")
def get_decision(request: HttpRequest, blog: str, decision_id: int) -> DecisionOut:
    """Return one decision with its trace."""
    return decision_out(
        queries.decision_of(blog_for(request.user, blog), decision_id), blogs=blog_numbers_of(request.user)
    )


@router.get("/blogs/{blog}/posts/{int:post_id}/decision", response=DecisionOut, operation_id="getPostDecision")
def get_post_decision(request: HttpRequest, blog: str, post_id: int) -> DecisionOut:
    """Return the decision of a post."""
    return decision_out(
        queries.decision_of_post(blog_for(request.user, blog), post_id), blogs=blog_numbers_of(request.user)
    )


@router.get("/blogs/{blog}/campaigns/{slug}/memory", response=ForgetOut, operation_id="getMemory")
def get_memory(request: HttpRequest, blog: str, slug: str) -> ForgetOut:
    """Return the number of items that would be forgotten."""
    campaign = campaign_of(blog_for(request.user, blog), slug)
    return ForgetOut(items=queries.forgettable(campaign).count())


@router.get("/blogs/{blog}/campaigns/{slug}/goes-with-it", response=GoesWithItOut, operation_id="getGoesWithIt")
def get_goes_with_it(request: HttpRequest, blog: str, slug: str) -> GoesWithItOut:
    """Count what goes when a campaign is deleted."""
    return GoesWithItOut.from_orm(goes_with(any_campaign_of(blog_for(request.user, blog), slug)))


@router.post("/blogs/{blog}/campaigns/{slug}/deletion", response={204: None}, operation_id="deleteCampaign")
def delete_campaign(request: HttpRequest, blog: str, slug: str) -> tuple[int, None]:
    """Delete a campaign with its posts, decisions, runs and revisions."""
    campaign = any_campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    ask_to_delete(campaign, by=person_of(request), now=wiring.clock()())
    return 204, None


@router.delete("/blogs/{blog}/campaigns/{slug}/memory", response=ForgetOut, operation_id="forgetMemory")
def forget_memory(request: HttpRequest, blog: str, slug: str) -> ForgetOut:
    """Forget decisions without a present post.

    The next run decides those items again.
    """
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    return ForgetOut(items=actions.forget(campaign))


@router.post("/blogs/{blog}/campaigns/{slug}/let-through", response=LetThroughOut, operation_id="letThrough")
def let_items_through(request: HttpRequest, blog: str, slug: str, payload: ChosenItemsIn) -> LetThroughOut:
    """Make the posts of items that the rules have stopped."""
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    told = letting.let_through(campaign, payload.items, by=person_of(request), now=wiring.clock()())
    return LetThroughOut(
        posts=[post.pk for post in told.posts],
        states=dict(Counter(post.state for post in told.posts)),
        left=told.left,
        change=told.change.pk if told.change else None,
    )


@router.post("/blogs/{blog}/campaigns/{slug}/memory/forget", response=ForgetOut, operation_id="forgetItems")
def forget_some(request: HttpRequest, blog: str, slug: str, payload: ChosenItemsIn) -> ForgetOut:
    """Forget the decisions of some items without a present post.

    The next run decides them again.
    """
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    return ForgetOut(items=actions.forget(campaign, payload.items))


@router.get("/blogs/{blog}/posts/{int:post_id}/correction", response=CorrectionOut | None, operation_id="getCorrection")
def get_correction(request: HttpRequest, blog: str, post_id: RowNumber) -> CorrectionOut | None:
    """Return what the source of a published post has corrected.

    Null where there is nothing.
    """
    post = post_of(blog_for(request.user, blog), post_id)
    row = queries.correction_of(post)
    if row is None:
        return None
    current = values_of(post)
    before = {name: current.get(name) for name in row.values}
    return CorrectionOut(at=row.at, before=before, after=row.values, refused=row.refused)


@router.post("/blogs/{blog}/posts/{int:post_id}/correction", response={204: None}, operation_id="settleCorrection")
def settle_correction(request: HttpRequest, blog: str, post_id: RowNumber, payload: CorrectionIn) -> tuple[int, None]:
    """Change a published post as its source corrected it, or leave it."""
    post = post_of(blog_for(request.user, blog, Role.EDITOR), post_id)
    if payload.take:
        corrections.take_correction(post, now=wiring.clock()())
    else:
        corrections.leave_correction(post)
    return 204, None
