"""Starting, stopping and carrying out runs."""

import logging
from collections.abc import Sequence
from datetime import datetime

from django.db import IntegrityError, connection, transaction
from glyptarch_core.errors import DocumentError
from glyptarch_core.match import item_ref
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import ItemRef, PostRef
from glyptarch_core.trace import Decision as CoreDecision
from glyptarch_core.trace import Verdict
from procrastinate.contrib.django import app as jobs

from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import house_of
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of, latest_revision, sources_for
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.actions import keep_outcome
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.actions import forget_refused, remember_duplicates, write_posts
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Post
from glyptarch_server.runs import queries
from glyptarch_server.runs.lifecycle import RunState, may_move
from glyptarch_server.runs.models import Decision, RuleUse, Run
from glyptarch_server.runs.traces import reason_data, trace_data
from glyptarch_server.sources.actions import read_sources
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import Clock, FetchPortal

__all__ = ["ask_to_stop", "begin_run", "carry_out", "decide_batch", "forget", "gather"]

_log = logging.getLogger("glyptarch.runs")


def begin_run(campaign: Campaign, *, by: User | None, now: datetime, queue: bool = True) -> Run:
    """Put a run of the latest rules on record, together with its job.

    Without ``queue`` the caller carries it out itself. Raises Conflict while another run of the
    campaign is under way.
    """
    try:
        with transaction.atomic():
            run = Run.objects.create(
                campaign=campaign,
                revision=latest_revision(campaign),
                state=RunState.WAITING.value,
                started_by=by,
                asked_at=now,
            )
            if queue:
                jobs.configure_task("carry_out_run", lock=f"campaign:{campaign.pk}").defer(run_id=run.pk)
            return run
    except IntegrityError as error:
        raise Conflict(f"A run of “{campaign.name}” is under way already. Watch it, or stop it first.") from error


def ask_to_stop(run: Run, *, now: datetime) -> None:
    """Ask a run to end after its present batch; one that no worker has taken ends at once."""
    with transaction.atomic():
        row = Run.objects.select_for_update().get(pk=run.pk)
        row.stop_asked = True
        row.save(update_fields=["stop_asked"])
        if row.state == RunState.WAITING.value:
            _move(row, RunState.STOPPED, now)


def forget(campaign: Campaign) -> int:
    """Forget what became of the items that are not posts, so that the next run decides them anew.

    Posts that are out, held or drafts stay, and are still found as duplicates; markers of refused
    ones go. Gives the number of items forgotten. Raises Conflict while a run is under way.
    """
    if queries.active_run(campaign) is not None:
        raise Conflict("A run is under way. Wait for its end, or stop it first.")
    with transaction.atomic():
        number = queries.forgettable(campaign).count()
        queries.forgettable(campaign).delete()
        forget_refused(campaign)
    return number


def _move(run: Run, to: RunState, now: datetime) -> None:
    state = RunState(run.state)
    if not may_move(state, to):
        raise Conflict(f"Run {run.pk} is {state.value}, it cannot become {to.value}.")
    run.state = to.value
    if run.begun_at is None and to is RunState.GATHERING:
        run.begun_at = now
    if to in {RunState.DONE, RunState.STOPPED, RunState.FAILED}:
        run.ended_at = now
    run.save(update_fields=["state", "begun_at", "ended_at"])


def gather(run: Run, sources: Sequence[Source], *, fetcher: FetchPortal, clock: Clock) -> None:
    """Read the sources and keep what is new; one that fails does not stop the others."""
    Run.objects.filter(pk=run.pk).update(sources=len(sources), sources_read=0, fresh=0)
    begun = clock()
    outcomes = read_sources(sources, fetcher)
    milliseconds = round((clock() - begun).total_seconds() * 1000)
    fresh = 0
    for number, (source, outcome) in enumerate(zip(sources, outcomes, strict=True), start=1):
        now = clock()
        with transaction.atomic():
            reading = keep_outcome(source, outcome, milliseconds=milliseconds, now=now)
            run.readings.add(reading)
            fresh += reading.fresh
            Run.objects.filter(pk=run.pk).update(sources_read=number, fresh=fresh)
        look_up_pages(source, fetcher=fetcher, now=now)


def decide_batch(run: Run, rows: Sequence[Item], *, now: datetime) -> bool:
    """Decide items and write decisions, posts and keys in one transaction.

    Gives whether there is room for more: what waits for a later run is not put on record.

    Two runs of one blog take turns here: what one has written, the other must see when it
    looks for duplicates.
    """
    document = document_of(run.revision)
    campaign = run.campaign
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [1, campaign.blog_id])
        decided_already = set(
            Decision.objects.filter(campaign=campaign, item__in=list(rows)).values_list("item_id", flat=True)
        )
        rows = [row for row in rows if row.pk not in decided_already]
        decisions = decide(
            as_captured(rows),
            document,
            memory=PostMemory(campaign),
            now=now,
            house=house_of(campaign.blog, [document]),
            made=queries.made_in(run),
        )
        pairs = [(row, one) for row, one in zip(rows, decisions, strict=True) if one.verdict is not Verdict.WAITING]
        posts = write_posts(campaign, run.revision, [(row.pk, one) for row, one in pairs if one.verdict.kept], now=now)
        Decision.objects.bulk_create([_row(run, row, one, posts.get(row.pk), now) for row, one in pairs])
        remember_duplicates(campaign, _repeated(campaign.blog, pairs, posts))
        _note_rule_use(campaign, [one for _, one in pairs], now)
    return len(pairs) == len(rows)


def _note_rule_use(campaign: Campaign, decisions: Sequence[CoreDecision], now: datetime) -> None:
    """Keep when each rule was first asked and last spoke against an item."""
    asked: dict[str, bool] = {}
    for decision in decisions:
        for note in decision.trace:
            if note.rule:
                name = f"{note.stage.value}.{note.rule}"
                asked[name] = asked.get(name, False) or note.against
    new = [RuleUse(campaign=campaign, rule=name, since=now) for name in asked]
    RuleUse.objects.bulk_create(new, ignore_conflicts=True)
    spoke = [name for name, against in asked.items() if against]
    RuleUse.objects.filter(campaign=campaign, rule__in=spoke).update(last=now)


def _row(run: Run, item: Item, decision: CoreDecision, post: Post | None, now: datetime) -> Decision:
    return Decision(
        run=run,
        campaign=run.campaign,
        item=item,
        post=post,
        verdict=decision.verdict.value,
        left_at=decision.left_at.value if decision.left_at else "",
        reason=reason_data(decision),
        trace=trace_data(decision),
        at=now,
    )


def _repeated(
    blog: Blog, pairs: Sequence[tuple[Item, CoreDecision]], posts: dict[int, Post]
) -> list[tuple[int, int, CoreDecision]]:
    """Give each duplicate of a post on this blog: the number of the post, its own, and its decision.

    A post of another blog is compared with, and never written to.
    """
    numbers = {item_ref(one.captured.item): posts[row.pk].pk for row, one in pairs if row.pk in posts}
    found = []
    for row, decision in pairs:
        match decision.same_as:
            case PostRef(post=number, blog=blog_number) if blog_number == blog.pk:
                found.append((number, row.pk, decision))
            case ItemRef() as ref if ref in numbers:
                found.append((numbers[ref], row.pk, decision))
    return found


def carry_out(run_id: int, *, fetcher: FetchPortal, clock: Clock, batch: int) -> None:
    """Take a run from where it stands to its end. Safe to call again after a crash."""
    run = Run.objects.select_related("campaign__blog", "revision").get(pk=run_id)
    if run.ended_at is not None:
        return
    try:
        _gather_and_decide(run, fetcher=fetcher, clock=clock, batch=batch)
    except DocumentError as error:
        Run.objects.filter(pk=run.pk).update(failure=f"The rules do not hold any more: {error}"[:500])
        _move(run, RunState.FAILED, clock())
    except Exception as error:
        _log.exception("run %s failed", run.pk)
        Run.objects.filter(pk=run.pk).update(failure=f"Something went wrong on our side: {error}"[:500])
        _move(run, RunState.FAILED, clock())
        raise


def _stop_asked(run: Run) -> bool:
    return Run.objects.filter(pk=run.pk, stop_asked=True).exists()


def _gather_and_decide(run: Run, *, fetcher: FetchPortal, clock: Clock, batch: int) -> None:
    document = document_of(run.revision)
    sources = sources_for(run.campaign.blog, document)
    if run.state != RunState.DECIDING.value:
        _move(run, RunState.GATHERING, clock())
        gather(run, sources, fetcher=fetcher, clock=clock)
        waiting = queries.undecided(run.campaign, sources).count()
        run.to_decide = min(waiting, document.gather.at_most or waiting)
        run.save(update_fields=["to_decide"])
        _move(run, RunState.DECIDING, clock())
    while not _stop_asked(run):
        left = run.to_decide - run.decisions.count()
        undecided = queries.undecided(run.campaign, sources, document.release.order)
        rows = list(undecided[: min(batch, left)]) if left > 0 else []
        if not rows or not decide_batch(run, rows, now=clock()):
            _move(run, RunState.DONE, clock())
            return
    _move(run, RunState.STOPPED, clock())
