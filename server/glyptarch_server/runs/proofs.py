"""The proof: a dry run over captured items. Reads, decides, counts; writes nothing."""

import threading
import time
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.pipeline import decide
from glyptarch_core.reuse import Reuse
from glyptarch_core.trace import Decision, Note, Stage, Verdict

from glyptarch_server.blogs.queries import words_by_key
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of, latest_revision, sources_for
from glyptarch_server.common.problems import NotFound
from glyptarch_server.items.queries import recent_captured
from glyptarch_server.posts.proof_memory import ProofMemory
from glyptarch_server.runs.queries import decided_count, idle_days

__all__ = ["PROOF_DAYS", "Proof", "Proved", "RuleEffect", "StageCount", "make_proof", "prove_one"]

PROOF_DAYS = 30
"""How far back a proof looks, in days."""

_MOST_ITEMS = 1000
_MOST_KEPT = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Proved:
    """One item of a proof: the number of its row, its decision, and what the saved rules would decide."""

    item: int
    decision: Decision
    saved: Decision

    @property
    def changed(self) -> bool:
        """Whether the rules as edited decide otherwise than the saved ones."""
        now, was = self.decision, self.saved
        return (now.verdict, now.left_at, now.draft) != (was.verdict, was.left_at, was.draft)


@dataclass(slots=True, kw_only=True)
class StageCount:
    """How many items came to a stage, and how many left it for which reason (code and rule)."""

    stage: Stage
    entered: int = 0
    left: Counter[tuple[str, str]] = field(default_factory=Counter)


@dataclass(slots=True, kw_only=True)
class RuleEffect:
    """What one rule does to the proof: items it speaks against, and those no other rule does."""

    against: int = 0
    alone: int = 0
    was_against: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Proof:
    """Everything the bench shows at a glance."""

    as_of: datetime
    milliseconds: int
    revision: int
    undecided: int
    items: Sequence[Proved]
    stages: Sequence[StageCount]
    rules: Mapping[str, RuleEffect]
    idle: Mapping[str, int]


_kept: dict[tuple[int, int, datetime, CampaignDocument], Proof] = {}
_kept_lock = threading.Lock()
_reuse = Reuse()


def make_proof(campaign: Campaign, document: CampaignDocument, *, now: datetime) -> Proof:
    """Decide the captured items of the last days by the given rules and by the saved ones.

    The last few proofs are kept for a moment, so that looking at one item after another does
    not make the proof again each time.
    """
    revision = latest_revision(campaign)
    key = (campaign.pk, revision.pk, now, document)
    with _kept_lock:
        kept = _kept.get(key)
    if kept is None:
        kept = _prove(campaign, document, revision, now=now)
        with _kept_lock:
            _kept[key] = kept
            while len(_kept) > _MOST_KEPT:
                _kept.pop(next(iter(_kept)))
    return kept


def _prove(campaign: Campaign, document: CampaignDocument, revision: Revision, *, now: datetime) -> Proof:
    begun = time.perf_counter()
    saved_document = document_of(revision)
    sources = {source.pk: source for d in (document, saved_document) for source in sources_for(campaign.blog, d)}
    captured = recent_captured(list(sources.values()), since=now - timedelta(days=PROOF_DAYS), limit=_MOST_ITEMS)
    memory = ProofMemory(campaign, leaving_out=list(captured))
    batch = list(captured.values())
    lists = words_by_key(campaign.blog_id)
    decisions = decide(batch, document, memory=memory, now=now, reuse=_reuse, lists=lists)
    saved = decisions
    if document != saved_document:
        saved = decide(batch, saved_document, memory=memory, now=now, reuse=_reuse, lists=lists)
    proved = [
        Proved(item=item, decision=decision, saved=was)
        for item, decision, was in zip(captured, decisions, saved, strict=True)
        if not (_is_foreign(decision) and _is_foreign(was))
    ]
    return Proof(
        as_of=now,
        milliseconds=round((time.perf_counter() - begun) * 1000),
        revision=revision.number,
        undecided=len(proved) - decided_count(campaign, [one.item for one in proved]),
        items=proved,
        stages=_stages([one.decision for one in proved]),
        rules=_effects(proved),
        idle=idle_days(campaign, now=now),
    )


def prove_one(campaign: Campaign, document: CampaignDocument, item: int, *, now: datetime) -> Proved:
    """Give one item of a proof. The whole proof is made, since a duplicate is one only among others."""
    proof = make_proof(campaign, document, now=now)
    found = next((one for one in proof.items if one.item == item), None)
    if found is None:
        raise NotFound("This item is not in the proof any more. Make the proof again.")
    return found


def _is_foreign(decision: Decision) -> bool:
    return decision.trace[0].code == "gather.other_source"


def _stages(decisions: Sequence[Decision]) -> list[StageCount]:
    counts = [StageCount(stage=stage) for stage in Stage]
    for decision in decisions:
        for count in counts:
            count.entered += 1
            if decision.left_at is count.stage:
                reason = decision.reason
                count.left[reason.code if reason else "", reason.rule if reason else ""] += 1
                break
        else:
            if decision.verdict is not Verdict.PUBLISH:
                counts[-1].left[decision.verdict.value, ""] += 1
    return counts


def _against(decision: Decision) -> list[Note]:
    return [note for note in decision.trace if note.against and note.rule]


def _changing(decision: Decision) -> list[Note]:
    return [note for note in decision.trace if note.code.startswith("step.") and note.code != "step.nothing"]


def _effects(proved: Sequence[Proved]) -> dict[str, RuleEffect]:
    effects: dict[str, RuleEffect] = {}
    for one in proved:
        against = _against(one.decision)
        for note in against:
            effect = effects.setdefault(f"{note.stage.value}.{note.rule}", RuleEffect())
            effect.against += 1
            effect.alone += len(against) == 1
        for note in _changing(one.decision):
            effects.setdefault(f"{note.stage.value}.{note.rule}", RuleEffect()).against += 1
        for note in [*_against(one.saved), *_changing(one.saved)]:
            effects.setdefault(f"{note.stage.value}.{note.rule}", RuleEffect()).was_against += 1
    return effects
