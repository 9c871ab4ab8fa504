"""The proof: a dry run over captured items. Reads, decides, counts; writes nothing."""

import threading
import time
from collections import Counter
from collections.abc import Callable, Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from functools import cache
from itertools import chain

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.reuse import Reuse
from glyptarch_core.shape import never_filled, unknown_variables
from glyptarch_core.trace import Decision, Note, Stage, Verdict

from glyptarch_server.blogs.queries import house_of
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.campaigns.queries import document_of, latest_revision, revision_of, sources_for
from glyptarch_server.common.problems import Invalid, NotFound
from glyptarch_server.items.queries import picked_captured, recent_captured, sample_captured, sample_of
from glyptarch_server.posts.proof_memory import ProofMemory
from glyptarch_server.runs.queries import decided_count, idle_days
from glyptarch_server.sources.models import Source

__all__ = [
    "PROOF_DAYS",
    "Hole",
    "Over",
    "Proof",
    "Proved",
    "RuleEffect",
    "StageCount",
    "make_proof",
    "moment_of_proof",
    "prove_one",
]

PROOF_DAYS = 30
"""How far back a proof looks, in days."""

_MOST_ITEMS = 1000
_MOST_KEPT = 4
_SAME_MOMENT = 30


@dataclass(frozen=True, slots=True, kw_only=True)
class Over:
    """What a proof is made over: the items of the last days, chosen ones, or those of a sample.

    ``source`` narrows the first to one source of the rules; ``items`` are row numbers.
    """

    days: int = PROOF_DAYS
    source: str = ""
    items: tuple[int, ...] = ()
    sample: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Hole:
    """A variable that the templates ask for and a source never fills; ``source`` is empty where none could."""

    source: str
    variable: str
    parts: tuple[str, ...]


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

    @property
    def reworded(self) -> bool:
        """Whether a post that stays a post says something else."""
        return self._differs("title", "body", "excerpt", "description", "address", "fields", "lead")

    @property
    def moved(self) -> bool:
        """Whether a post that stays a post stands elsewhere: sorted, named, dated or shown otherwise."""
        return self._differs(
            "categories", "tags", "byline", "date", "kind", "pinned", "comments", "visibility", "language", "canonical"
        )

    def _differs(self, *names: str) -> bool:
        now, was = self.decision.draft, self.saved.draft
        return bool(now and was) and any(getattr(now, name) != getattr(was, name) for name in names)


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
    """Everything the bench shows at a glance. ``revision`` is the one it is compared with."""

    as_of: datetime
    over: Over
    milliseconds: int
    revision: int
    undecided: int
    items: Sequence[Proved]
    stages: Sequence[StageCount]
    rules: Mapping[str, RuleEffect]
    idle: Mapping[str, int]
    holes: Sequence[Hole]


_Key = tuple[int, int, datetime, CampaignDocument, Over]
_kept: dict[_Key, Proof] = {}
_kept_lock = threading.Lock()
_reuse = Reuse()


def moment_of_proof(now: datetime) -> datetime:
    """Give the time a proof goes by: the end of the half minute, so that edits that follow each other share it."""
    return datetime.fromtimestamp(-(-now.timestamp() // _SAME_MOMENT) * _SAME_MOMENT, tz=UTC)


def make_proof(
    campaign: Campaign,
    document: CampaignDocument,
    *,
    now: datetime,
    over: Over | None = None,
    against: int | None = None,
) -> Proof:
    """Decide captured items by the given rules and by those of a saved revision, the latest unless another is named.

    The last few proofs are kept for a moment, so that looking at one item after another does
    not make the proof again each time.
    """
    revision = latest_revision(campaign) if against is None else revision_of(campaign, against)
    over = over or Over()
    key = (campaign.pk, revision.pk, now, document, over)
    with _kept_lock:
        kept = _kept.get(key)
    if kept is None:
        kept = _prove(campaign, document, revision, over, now=now)
        with _kept_lock:
            _kept[key] = kept
            while len(_kept) > _MOST_KEPT:
                _kept.pop(next(iter(_kept)))
    return kept


_Told = tuple[tuple[Decision, ...], Sequence[Sequence[tuple[Stage, str]]]]
_last_saved: dict[Hashable, _Told] = {}


def _saved(known: Hashable, make: Callable[[], tuple[Decision, ...]]) -> _Told:
    """Give what the revision compared with decides, and which rules spoke; made once for all edits of a moment."""
    with _kept_lock:
        found = _last_saved.get(known)
    if found is None:
        found = _told(make())
        with _kept_lock:
            _last_saved[known] = found
            while len(_last_saved) > _MOST_KEPT:
                _last_saved.pop(next(iter(_last_saved)))
    return found


def _told(decisions: tuple[Decision, ...]) -> _Told:
    return decisions, [[(note.stage, note.rule) for note in _spoke(one)] for one in decisions]


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
    found = sample_captured(sample_of(campaign.blog, number), sources[0])
    return dict(list(found.items())[:_MOST_ITEMS])


def _prove(campaign: Campaign, document: CampaignDocument, revision: Revision, over: Over, *, now: datetime) -> Proof:
    begun = time.perf_counter()
    saved_document = document_of(revision)
    captured = _items(campaign, {document, saved_document}, over, now)
    of_rows = over.sample is None
    memory = ProofMemory(campaign, leaving_out=list(captured) if of_rows else [])
    batch = list(captured.values())
    house = house_of(campaign.blog)
    decisions = decide(batch, document, memory=memory, now=now, reuse=_reuse, house=house)
    if document == saved_document:
        saved, spoke = _told(decisions)
    else:
        known = (revision.pk, over, tuple(batch), memory.stamp, house.stamp, now)
        saved, spoke = _saved(
            known, lambda: decide(batch, saved_document, memory=memory, now=now, reuse=_reuse, house=house)
        )
    proved = [
        Proved(item=item, decision=decision, saved=was)
        for item, decision, was in zip(captured, decisions, saved, strict=True)
        if not (_is_foreign(decision) and _is_foreign(was))
    ]
    effects = _effects([one.decision for one in proved], spoke)
    return Proof(
        as_of=now,
        over=over,
        milliseconds=round((time.perf_counter() - begun) * 1000),
        revision=revision.number,
        undecided=len(proved) - decided_count(campaign, [one.item for one in proved]) if of_rows else 0,
        items=proved,
        stages=_stages([one.decision for one in proved]),
        rules=effects,
        idle=idle_days(campaign, now=now),
        holes=_holes(document, [one.decision.captured for one in proved if not _is_foreign(one.decision)]),
    )


def _holes(document: CampaignDocument, items: Sequence[Captured]) -> list[Hole]:
    nowhere = unknown_variables(document.shape)
    titles = {captured.item.source: captured.source.title for captured in items}
    return [
        *(Hole(source="", variable=name, parts=tuple(parts)) for name, parts in nowhere.items()),
        *(
            Hole(source=titles[source], variable=name, parts=tuple(parts))
            for source, holes in never_filled(document.shape, items).items()
            for name, parts in holes.items()
        ),
    ]


def prove_one(
    campaign: Campaign,
    document: CampaignDocument,
    item: int,
    *,
    now: datetime,
    over: Over | None = None,
    against: int | None = None,
) -> Proved:
    """Give one item of a proof. The whole proof is made, since a duplicate is one only among others."""
    proof = make_proof(campaign, document, now=now, over=over, against=against)
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


_GIVEN = frozenset({"category.given", "tags.given"})


def _spoke(decision: Decision) -> list[Note]:
    """Give the notes of rules that did something: spoke against the item, changed it or gave it a name."""
    return [note for note in decision.trace if note.rule and (note.against or _does(note.code))]


@cache
def _does(code: str) -> bool:
    return code in _GIVEN or (code != "step.nothing" and code.startswith("step."))


def _effects(
    decisions: Sequence[Decision], spoke_before: Sequence[Sequence[tuple[Stage, str]]]
) -> dict[str, RuleEffect]:
    effects: dict[tuple[Stage, str], RuleEffect] = {}
    for decision in decisions:
        notes = _spoke(decision)
        against = sum(note.against for note in notes)
        for note in notes:
            effect = effects.setdefault((note.stage, note.rule), RuleEffect())
            effect.against += 1
            effect.alone += note.against and against == 1
    for name, times in Counter(chain.from_iterable(spoke_before)).items():
        effects.setdefault(name, RuleEffect()).was_against = times
    return {f"{stage.value}.{rule}": effect for (stage, rule), effect in effects.items()}
