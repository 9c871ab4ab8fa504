"""The proof: a dry run over captured items. It reads, decides and counts.

It writes nothing.
"""

import secrets
import threading
import time
from collections.abc import Callable, Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.campaign_pass import body_of
from glyptarch_core.draft import Draft
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext
from glyptarch_core.reuse import Reuse
from glyptarch_core.shape import Version, around_step
from glyptarch_core.trace import Decision

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of, latest_revision, revision_of, sources_for
from glyptarch_server.common.problems import Invalid, NotFound
from glyptarch_server.items.queries import picked_captured, recent_captured, sample_captured, sample_of
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.proof_memory import ProofMemory
from glyptarch_server.proofs.tally import (
    Over,
    Proof,
    Proved,
    RuleCounts,
    active_rules,
    effects_of,
    holes_of,
    is_foreign,
    stages_of,
)
from glyptarch_server.runs.queries import decided_count, idle_days
from glyptarch_server.sources.models import Source

__all__ = ["around_step_of", "make_proof", "moment_of_proof", "post_anyway", "proof_named", "prove_one"]

_MOST_ITEMS = 1000
_MOST_KEPT = 8
_SAME_MOMENT = 30


_kept: dict[tuple[Hashable, ...], tuple[tuple[Captured, ...], Proof]] = {}
_kept_lock = threading.Lock()
_reuse = Reuse()


def moment_of_proof(now: datetime) -> datetime:
    """Return the time of a proof: the end of the half minute, so that successive edits share it."""
    return datetime.fromtimestamp(-(-now.timestamp() // _SAME_MOMENT) * _SAME_MOMENT, tz=UTC)


def make_proof(
    campaign: Campaign,
    document: CampaignDocument,
    *,
    now: datetime,
    over: Over | None = None,
    against: int | None = None,
    is_wanted: Callable[[], bool] = lambda: True,
) -> Proof:
    """Decide captured items by the given rules and by a saved revision, the latest by default.

    The last few proofs are cached, so that looking at one item after another does not repeat the proof. Their keys
    have everything that a pass reads: items with the rights of their sources, posts, and what the blog shares. Raises
    UnwantedError where ``is_wanted`` returns False meanwhile.
    """
    revision = latest_revision(campaign) if against is None else revision_of(campaign, against)
    over = over or Over()
    read = _read(campaign, document, revision, over, now)
    key = (campaign.pk, revision.pk, now, document, over, tuple(map(id, read.batch)), *read.stamps)
    with _kept_lock:
        kept = _kept.get(key)
    if kept is None:
        # The items are kept with it, so that no other gets the address of one in memory.
        kept = read.batch, _prove(campaign, document, revision, over, read, now=now, is_wanted=is_wanted)
        with _kept_lock:
            _kept[key] = kept
            while len(_kept) > _MOST_KEPT:
                _kept.pop(next(iter(_kept)))
    return kept[1]


def proof_named(campaign: Campaign, token: str) -> Proof | None:
    """Return a recent proof of a campaign by its token.

    None where it is no longer cached.
    """
    with _kept_lock:
        kept = (proof for key, (_, proof) in _kept.items() if key[0] == campaign.pk and proof.token == token)
        return next(kept, None)


_Decided = tuple[tuple[Decision, ...], RuleCounts]
_last_saved: dict[Hashable, _Decided] = {}


def _saved(key: Hashable, make: Callable[[], tuple[Decision, ...]]) -> _Decided:
    """Return the decisions and active rules of the compared revision.

    They are computed once for several edits.
    """
    with _kept_lock:
        cached = _last_saved.get(key)
    if cached is None:
        decisions = make()
        cached = decisions, active_rules(decisions)
        with _kept_lock:
            _last_saved[key] = cached
            while len(_last_saved) > _MOST_KEPT:
                _last_saved.pop(next(iter(_last_saved)))
    return cached


def _items(
    campaign: Campaign, documents: Collection[CampaignDocument], over: Over, now: datetime
) -> dict[int, Captured]:
    sources = {source.pk: source for document in documents for source in sources_for(campaign.blog, document)}
    if over.sample is not None:
        return _of_sample(campaign, list(sources.values()), over.sample)
    if over.items:
        return picked_captured(list(sources.values()), over.items, limit=_MOST_ITEMS)
    chosen = [source for source in sources.values() if over.source in {"", source.key}]
    return recent_captured(chosen, since=now - timedelta(days=over.days), limit=_MOST_ITEMS)


def _of_sample(campaign: Campaign, sources: Sequence[Source], number: int) -> dict[int, Captured]:
    if not sources:
        raise Invalid("Choose a source at Gather first: the sample is proved as if that source had given it.")
    captured = sample_captured(sample_of(campaign.blog, number), sources[0])
    return dict(list(captured.items())[:_MOST_ITEMS])


@dataclass(frozen=True, slots=True, kw_only=True)
class _Read:
    """What a proof reads besides the rules: items by number, posts, and what the blog shares."""

    captured: Mapping[int, Captured]
    memory: ProofMemory
    context: BlogContext

    @property
    def batch(self) -> tuple[Captured, ...]:
        """The items in their order."""
        return tuple(self.captured.values())

    @property
    def stamps(self) -> tuple[Hashable, Hashable]:
        """Values that change with posts and with what the blog shares."""
        return self.memory.stamp, self.context.stamp


def _read(campaign: Campaign, document: CampaignDocument, revision: Revision, over: Over, now: datetime) -> _Read:
    documents = {document, document_of(revision)}
    captured = _items(campaign, documents, over, now)
    memory = ProofMemory(campaign, leaving_out=list(captured) if over.sample is None else [])
    return _Read(captured=captured, memory=memory, context=context_for(campaign.blog, documents))


def _prove(
    campaign: Campaign,
    document: CampaignDocument,
    revision: Revision,
    over: Over,
    read: _Read,
    *,
    now: datetime,
    is_wanted: Callable[[], bool],
) -> Proof:
    begun = time.perf_counter()
    saved_document, of_rows = document_of(revision), over.sample is None
    captured, memory, context, batch = read.captured, read.memory, read.context, list(read.batch)
    decisions = decide(batch, document, memory=memory, now=now, reuse=_reuse, context=context, is_wanted=is_wanted)
    if document == saved_document:
        saved, before = decisions, active_rules(decisions)
    else:
        key = (revision.pk, over, tuple(batch), memory.stamp, context.stamp, now)
        saved, before = _saved(
            key, lambda: decide(batch, saved_document, memory=memory, now=now, reuse=_reuse, context=context)
        )
    proved = [
        Proved(item=item, decision=decision, saved=was)
        for item, decision, was in zip(captured, decisions, saved, strict=True)
        if not (is_foreign(decision) and is_foreign(was))
    ]
    effects = effects_of([proved_item.decision for proved_item in proved], before)
    return Proof(
        token=secrets.token_hex(8),
        as_of=now,
        over=over,
        milliseconds=round((time.perf_counter() - begun) * 1000),
        revision=revision.number,
        undecided=len(proved) - decided_count(campaign, [proved_item.item for proved_item in proved]) if of_rows else 0,
        items=proved,
        stages=stages_of([proved_item.decision for proved_item in proved]),
        rules=effects,
        idle=idle_days(campaign, now=now),
        holes=holes_of(
            document, [proved_item.decision.captured for proved_item in proved if not is_foreign(proved_item.decision)]
        ),
    )


def post_anyway(campaign: Campaign, document: CampaignDocument, proved: Proved, *, now: datetime) -> Draft | None:
    """Return the post of an item if no rule stopped it.

    None where nothing is left of it.
    """
    captured = proved.decision.captured
    context = context_for(campaign.blog, [document])
    memory = ProofMemory(campaign, leaving_out=[proved.item])
    return decide([captured], document.letting_through(), memory=memory, now=now, context=context)[0].draft


def around_step_of(blog: Blog, document: CampaignDocument, proved: Proved, step: str) -> tuple[Version, Version]:
    """Return an item before and after a step of Shape. Raises NotFound for an unknown step."""
    captured = proved.decision.captured
    context = context_for(blog, [document])
    try:
        return around_step(document.shape, context, captured, body_of(captured, document.gather), step)
    except LookupError as error:
        raise NotFound(f"The rules have no step “{step}” that is on.") from error


def prove_one(
    campaign: Campaign,
    document: CampaignDocument,
    item: int,
    *,
    now: datetime,
    over: Over | None = None,
    against: int | None = None,
) -> Proved:
    """Return one item of a proof.

    The whole proof is computed, since duplicates depend on other items.
    """
    proof = make_proof(campaign, document, now=now, over=over, against=against)
    same_item = next((proved_item for proved_item in proof.items if proved_item.item == item), None)
    if same_item is None:
        raise NotFound("This item is not in the proof any more. Make the proof again.")
    return same_item
