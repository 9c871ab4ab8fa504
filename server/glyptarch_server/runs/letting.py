"""Making the posts of items that the rules stopped, because a person wants them."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from types import MappingProxyType

from django.db import transaction
from glyptarch_core.letting import decide_letting_through
from glyptarch_core.trace import Decision as CoreDecision

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured, still_open
from glyptarch_server.posts.actions import write_posts
from glyptarch_server.posts.changes import Action, new_change
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.lifecycle import ChangeState, PostState
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Change, Post, PostChange
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.runs.traces import reason_data, trace_data

__all__ = ["LetThrough", "let_through"]

_LEFT_FOR: Mapping[str, str] = MappingProxyType(
    {
        "gather.other_source": "other_source",
        "shape.empty": "empty",
        "shape.waits": "waits",
        "shape.failed": "failed",
        "shape.template_failed": "failed",
    }
)


@dataclass(slots=True)
class LetThrough:
    """What became of the chosen items.

    ``left`` has the titles of those without a new post, by the reason: ``has_post``, ``refused`` by a person,
    ``withdrawn``, of a source outside the campaign (``other_source``), ``failed`` in Shape, ``empty`` after it, or
    ``waits`` for texts of language services.
    """

    posts: list[Post] = field(default_factory=list)
    left: dict[str, list[str]] = field(default_factory=dict)
    change: Change | None = None

    def leave(self, why: str, item: Item) -> None:
        """Note that an item stays as it is."""
        self.left.setdefault(why, []).append(item.title)


def let_through(campaign: Campaign, items: Sequence[int], *, by: User | None, now: datetime) -> LetThrough:
    """Make the posts of items by the campaign's saved rules, without its filters and duplicates.

    One change, which can be taken back: the posts go into the bin without a marker then, and the next run decides
    the items again.
    """
    told = LetThrough()
    with transaction.atomic():
        take_turn(campaign.blog_id)
        revision = latest_revision(campaign)
        found = Item.objects.filter(AnyOf("pk", list(items)), source__blog=campaign.blog_id)
        rows = _without_posts(campaign, list(found.select_related("source").order_by("pk")), told)
        document = document_of(revision)
        decisions = decide_letting_through(
            as_captured(rows),
            document,
            memory=PostMemory(campaign),
            now=now,
            context=context_for(campaign.blog, [document]),
            by=(by.get_full_name() or by.get_username()) if by else "",
        )
        pairs = []
        for row, decision in zip(rows, decisions, strict=True):
            if decision.verdict.kept:
                pairs.append((row, decision))
            else:
                assert decision.reason is not None  # noqa: S101 - what stops an item has one
                told.leave(_LEFT_FOR[decision.reason.code], row)
        if pairs:
            posts = write_posts(campaign, revision, pairs, now=now)
            _note_decisions(campaign, revision, pairs, posts, by=by, now=now)
            told.posts = list(posts.values())
            told.change = _change_of(campaign, told.posts, now=now)
    return told


def _without_posts(campaign: Campaign, rows: Sequence[Item], told: LetThrough) -> list[Item]:
    """Return the items that may become posts, and note why the others may not."""
    earlier = Post.objects.filter(campaign=campaign, item__in=rows).exclude(state=PostState.BINNED.value, marker=False)
    states = dict(earlier.values_list("item", "state"))
    open_rows = {row.pk for row in still_open(rows)}
    wanted = []
    for row in rows:
        if row.pk not in open_rows:
            told.leave("withdrawn", row)
        elif row.pk in states:
            told.leave("refused" if states[row.pk] == PostState.REFUSED.value else "has_post", row)
        else:
            wanted.append(row)
    return wanted


def _note_decisions(
    campaign: Campaign,
    revision: Revision,
    pairs: Sequence[tuple[Item, CoreDecision]],
    posts: dict[int, Post],
    *,
    by: User | None,
    now: datetime,
) -> None:
    """Write the decisions in place of the earlier ones.

    Those that no run has made get a run of their own, so that each stands in a run.
    """
    rows = Decision.objects.filter(campaign=campaign, item__in=[row for row, _ in pairs]).select_related("run")
    earlier = {row.item_id: row for row in rows}
    alone: Run | None = None
    moved: Counter[tuple[int, str]] = Counter()
    made = []
    for item, decision in pairs:
        before = earlier.get(item.pk)
        if before is None and alone is None:
            alone = Run.objects.create(
                campaign=campaign, revision=revision, state=RunState.DONE.value, started_by=by, asked_at=now,
                begun_at=now, ended_at=now,
            )  # fmt: skip
        run = before.run if before else alone
        assert run is not None  # noqa: S101 - made above where there was none
        if before:
            moved[run.pk, before.verdict] -= 1
        moved[run.pk, decision.verdict.value] += 1
        made.append(
            Decision(
                run=run,
                campaign=campaign,
                item=item,
                post=posts[item.pk],
                verdict=decision.verdict.value,
                left_at="",
                reason=reason_data(decision),
                trace=trace_data(decision),
                at=now,
            )
        )
    Decision.objects.filter(pk__in=[row.pk for row in earlier.values()]).delete()
    Decision.objects.bulk_create(made)
    _count_anew(moved)


def _count_anew(moved: Counter[tuple[int, str]]) -> None:
    """Correct the counts of runs. Called last, because it locks their rows."""
    for run in Run.objects.select_for_update().only("verdicts").filter(pk__in={run for run, _ in moved}).order_by("pk"):
        counts = Counter(run.verdicts)
        counts.update({verdict: number for (of, verdict), number in moved.items() if of == run.pk})
        run.verdicts = {verdict: number for verdict, number in counts.items() if number > 0}
        run.save(update_fields=["verdicts"])


def _change_of(campaign: Campaign, posts: Sequence[Post], *, now: datetime) -> Change:
    """Record the new posts as a change that can be taken back.

    Before it, they were in the bin without a marker.
    """
    subject = posts[0].title if len(posts) == 1 else campaign.name
    change = new_change(campaign.blog, Action.LET_THROUGH, {}, [post.pk for post in posts], subject=subject, now=now)
    change.done = change.changed = len(posts)
    change.state, change.ended_at = ChangeState.DONE.value, now
    change.save(update_fields=["done", "changed", "state", "ended_at"])
    binned = {"state": PostState.BINNED.value, "binned_at": now.isoformat(), "marker": False}
    PostChange.objects.bulk_create(
        PostChange(
            change=change,
            post=post,
            version=post.version,
            before=binned,
            after={"state": post.state, "binned_at": None, "marker": True},
        )
        for post in posts
    )
    record("posts.let_through", subject, blog=campaign.blog_id, after={"posts": len(posts)})
    return change
