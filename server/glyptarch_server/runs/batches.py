"""Deciding one batch of items, and writing what became of them."""

import logging
from collections import Counter
from collections.abc import Callable, Sequence
from datetime import datetime

from django.db import InterfaceError, OperationalError, transaction
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.errors import DocumentError
from glyptarch_core.match import item_ref
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import ItemRef, PostRef
from glyptarch_core.release import HELD_FOR_EDITIONS
from glyptarch_core.reuse import Reuse
from glyptarch_core.trace import Decision as CoreDecision
from glyptarch_core.trace import Note, Stage, Verdict

from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of
from glyptarch_server.editions.actions import want
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured, still_open
from glyptarch_server.posts.actions import remember_duplicates, write_posts
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Post
from glyptarch_server.runs import queries
from glyptarch_server.runs.models import Decision, RuleUse, Run, TextWait
from glyptarch_server.runs.traces import note_data, reason_data, trace_data
from glyptarch_server.services.actions import begin_asking, note_asks
from glyptarch_server.tasks.lifecycle import StopError, TaskError

__all__ = ["decide_batch", "decide_one_by_one"]

_log = logging.getLogger("glyptarch.runs")


def decide_batch(run: Run, rows: Sequence[Item], *, now: datetime, check: Callable[[], None]) -> bool:
    """Decide items and write decisions, posts and keys in one transaction.

    Returns whether there is room for more; items waiting for a later run are not recorded. What they ask of language
    services is, and the task that asks them begins. ``check`` raises where the
    run must not go on, and is asked under the blog's turn. Two runs of one blog take
    turns here, because each must see what the other has written when it looks for duplicates.
    """
    document = document_of(run.revision)
    campaign, reuse, posts_made = run.campaign, Reuse(), queries.made_in(run)
    captured = dict(zip([row.pk for row in rows], as_captured(rows), strict=True))
    memory, context = PostMemory(campaign), context_for(campaign.blog, [document])
    decide(
        list(captured.values()),
        document,
        memory=memory,
        now=now,
        context=context,
        posts_made=posts_made,
        reuse=reuse,
    )
    with transaction.atomic():
        take_turn(campaign.blog_id)
        check()
        decided_already = queries.decided_items(campaign, [row.pk for row in rows])
        # Takedowns take the blog's turn as well, so rows that are open here stay open in this transaction.
        rows = still_open([row for row in rows if row.pk not in decided_already])
        decisions = decide(
            [captured[row.pk] for row in rows],
            document,
            memory=PostMemory(campaign),
            now=now,
            context=context_for(campaign.blog, [document]),
            posts_made=queries.made_in(run),
            reuse=reuse,
        )
        pairs = [
            (row, decision)
            for row, decision in zip(rows, decisions, strict=True)
            if decision.verdict is not Verdict.WAITING
        ]
        posts = write_posts(campaign, run.revision, [pair for pair in pairs if pair[1].verdict.kept], now=now)
        # Drop the old decision of an item whose post was binned so that it may return.
        Decision.objects.filter(campaign=campaign, item__in=[row.pk for row, _ in pairs]).delete()
        Decision.objects.bulk_create([_row(run, row, decision, posts.get(row.pk), now) for row, decision in pairs])
        remember_duplicates(campaign, _repeated(campaign.blog, pairs, posts))
        _note_rule_use(campaign, [decision for _, decision in pairs], now)
        asking = [(row, decision) for row, decision in zip(rows, decisions, strict=True) if decision.asks]
        if asking:
            _ask_services(run, asking, now)
        if document.release.editions:
            _want_editions(
                campaign, document, [(posts[row.pk], decision) for row, decision in pairs if row.pk in posts], now
            )
        _count(run, [decision.verdict for _, decision in pairs], asking=len(asking))
    return len(pairs) + len(asking) == len(rows)


def decide_one_by_one(run: Run, rows: Sequence[Item], *, now: datetime, check: Callable[[], None]) -> bool:
    """Decide items each in a transaction of its own, after they failed together.

    An item that fails alone is put on record as refused, so that it holds up no other; the log
    says why. Raises what concerns all of them: an absent database, rules that do not hold.
    """
    for row in rows:
        try:
            room = decide_batch(run, [row], now=now, check=check)
        except (OperationalError, InterfaceError, DocumentError, StopError, TaskError):
            raise
        except Exception:  # noqa: BLE001 - whatever is wrong with one item
            _log.exception("run %s: item %s cannot be decided and is refused", run.pk, row.pk)
            _refuse(run, row, now)
            continue
        if not room:
            return False
    return True


def _refuse(run: Run, row: Item, now: datetime) -> None:
    note = note_data(Note(stage=Stage.RELEASE, code="release.failed", against=True, data={"run": run.pk}))
    with transaction.atomic():
        Decision.objects.create(
            run=run,
            campaign=run.campaign,
            item=row,
            verdict=Verdict.REFUSED.value,
            left_at=Stage.RELEASE.value,
            reason=note,
            trace=[note],
            at=now,
        )
        _count(run, [Verdict.REFUSED])


def _note_rule_use(campaign: Campaign, decisions: Sequence[CoreDecision], now: datetime) -> None:
    """Record when each rule was first evaluated and was last against an item."""
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


def _ask_services(run: Run, waiting: Sequence[tuple[Item, CoreDecision]], now: datetime) -> None:
    """Put on record what items wait for, and begin the task that asks for it."""
    campaign = run.campaign
    TextWait.objects.bulk_create([TextWait(run=run, item=row) for row, _ in waiting], ignore_conflicts=True)
    if note_asks(campaign.blog_id, campaign.pk, [decision for _, decision in waiting], now=now):
        begin_asking(campaign.blog_id, now=now)


def _want_editions(
    campaign: Campaign, document: CampaignDocument, made: Sequence[tuple[Post, CoreDecision]], now: datetime
) -> None:
    """Want the editions of new posts. Those that wait for them go out together with them."""
    modes = {rule.to: rule.mode for rule in document.release.editions}
    waits = {post.pk for post, decision in made if any(note.code == HELD_FOR_EDITIONS for note in decision.trace)}
    for together in (True, False):
        posts = [post for post, _ in made if (post.pk in waits) is together]
        want(campaign.blog, posts, modes, together=together, now=now)


def _count(run: Run, verdicts: Sequence[Verdict], *, asking: int = 0) -> None:
    """Add to the counts of a run. Call it last in a transaction, because it locks the run's row."""
    row = Run.objects.select_for_update().only("verdicts", "texts_waiting").get(pk=run.pk)
    row.verdicts = dict(Counter(row.verdicts) + Counter(verdict.value for verdict in verdicts))
    row.texts_waiting += asking
    row.save(update_fields=["verdicts", "texts_waiting"])


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
    """Return the duplicates of posts on this blog: post number, item number and decision.

    Posts of other blogs are compared with but never written to.
    """
    numbers = {item_ref(decision.captured.item): posts[row.pk].pk for row, decision in pairs if row.pk in posts}
    repeated = []
    for row, decision in pairs:
        match decision.same_as:
            case PostRef(post=number, blog=blog_number) if blog_number == blog.pk:
                repeated.append((number, row.pk, decision))
            case ItemRef() as ref if ref in numbers:
                repeated.append((numbers[ref], row.pk, decision))
    return repeated
