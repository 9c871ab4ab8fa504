"""The result of a proof: its items, counted by stage, by rule, and by unfilled variables."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property
from typing import TypeAlias

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.item import Captured
from glyptarch_core.shape import ageing_variables, never_filled, unknown_variables
from glyptarch_core.trace import Decision, Note, Stage, Verdict

from glyptarch_server.runs.traces import brief_reason

__all__ = [
    "PROOF_DAYS",
    "Hole",
    "Over",
    "Proof",
    "Proved",
    "RuleCounts",
    "RuleEffect",
    "StageCount",
    "active_rules",
    "effects_of",
    "holes_of",
    "is_foreign",
    "stages_of",
]

PROOF_DAYS = 30
"""How far back a proof looks, in days."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Over:
    """The items of a proof: those of the last days, chosen ones, or those of a sample.

    ``source`` narrows the first to one source of the rules; ``items`` are row numbers.
    """

    days: int = PROOF_DAYS
    source: str = ""
    items: tuple[int, ...] = ()
    sample: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Hole:
    """A variable that templates use and a source never fills, or whose value ``ages`` in a text.

    ``source`` is empty where that holds for all.
    """

    source: str
    variable: str
    parts: tuple[str, ...]
    ages: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Proved:
    """One item of a proof: its row number, its decision, and the decision of the saved rules."""

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
        """Whether a post that stays a post changes its category, address, date or visibility."""
        return self._differs(
            "categories", "tags", "byline", "date", "kind", "pinned", "comments", "visibility", "language", "canonical"
        )

    @property
    def shown(self) -> tuple[object, ...]:
        """All that its row in the list depends on, beside the item itself."""
        decision, saved = self.decision, self.saved
        was = (saved.verdict, saved.left_at, self.moved, self.reworded) if self.changed else None
        categories = decision.draft.categories if decision.draft else ()
        return decision.captured, decision.verdict, decision.left_at, brief_reason(decision), categories, was

    def _differs(self, *names: str) -> bool:
        now, was = self.decision.draft, self.saved.draft
        return bool(now and was) and any(getattr(now, name) != getattr(was, name) for name in names)


@dataclass(slots=True, kw_only=True)
class StageCount:
    """The items that reached a stage, and the reasons for leaving there (code and rule)."""

    stage: Stage
    entered: int = 0
    left: Counter[tuple[str, str]] = field(default_factory=Counter)


@dataclass(slots=True, kw_only=True)
class RuleEffect:
    """The effect of one rule: items it speaks against, and those that no other rule does."""

    against: int = 0
    alone: int = 0
    was_against: int = 0


@dataclass(frozen=True, kw_only=True)
class Proof:
    """Everything the bench shows at a glance. ``revision`` is the one it is compared with.

    ``token`` names the proof, so that a reader who has it can ask for what differs in the next one.
    """

    token: str
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

    def rows_after(self, earlier: "Proof") -> Sequence[Proved] | None:
        """Return the items that differ from an earlier proof.

        None where it has other items.
        """
        if [item.item for item in self.items] != [item.item for item in earlier.items]:
            return None
        rows = zip(self.items, self._shown, earlier._shown, strict=True)  # noqa: SLF001 - a proof as well
        return [proved_item for proved_item, now, before in rows if now != before]

    @cached_property
    def _shown(self) -> list[tuple[object, ...]]:
        """The rows in comparable form, cached.

        Each proof is compared with its predecessor and successor.
        """
        return [item.shown for item in self.items]


RuleCounts: TypeAlias = Mapping[tuple[Stage, str], int]
"""To how many items each rule did something, by its stage and id."""


def holes_of(document: CampaignDocument, items: Sequence[Captured]) -> list[Hole]:
    """Return the variables that templates use and nothing fills, or that age.

    Those of one source name it.
    """
    nowhere = unknown_variables(document.shape)
    titles = {captured.item.source: captured.source.title for captured in items}
    return [
        *(Hole(source="", variable=name, parts=tuple(parts)) for name, parts in nowhere.items()),
        *(
            Hole(source="", variable=name, parts=tuple(parts), ages=True)
            for name, parts in ageing_variables(document.shape).items()
        ),
        *(
            Hole(source=titles[source], variable=name, parts=tuple(parts))
            for source, holes in never_filled(document.shape, items).items()
            for name, parts in holes.items()
        ),
    ]


def is_foreign(decision: Decision) -> bool:
    """Whether an item belongs to a source that the rules do not use."""
    return decision.trace[0].code == "gather.other_source"


def stages_of(decisions: Sequence[Decision]) -> list[StageCount]:
    """Count the items that reach each stage, and the reasons for leaving there."""
    counts = {stage: StageCount(stage=stage) for stage in Stage}
    gone = Counter(decision.left_at for decision in decisions)
    entered = len(decisions)
    for stage, count in counts.items():
        count.entered = entered
        entered -= gone[stage]
    for decision in decisions:
        if decision.left_at is not None:
            reason = decision.reason
            counts[decision.left_at].left[reason.code if reason else "", reason.rule if reason else ""] += 1
        elif decision.verdict is not Verdict.PUBLISH:
            counts[Stage.RELEASE].left[decision.verdict.value, ""] += 1
    return list(counts.values())


_GIVEN = frozenset({"category.given", "tags.given"})
_IDLE_STEPS = frozenset({"step.nothing", "step.spared"})


def _active(decision: Decision) -> list[Note]:
    """Return the notes of rules with an effect: against the item, a change, or a name."""
    return [note for note in decision.trace if (note.against or _acts[note.code]) and note.rule]


def active_rules(decisions: Sequence[Decision]) -> RuleCounts:
    """Count the items to which each rule did something."""
    return _counted(map(_active, decisions))


def _counted(active: Iterable[Sequence[Note]]) -> RuleCounts:
    return Counter([(note.stage, note.rule) for notes in active for note in notes])


class _Acts(dict[str, bool]):
    """Whether a code means that a rule changed or named the item, cached by code."""

    def __missing__(self, code: str) -> bool:
        self[code] = acts = code in _GIVEN or (code.startswith("step.") and code not in _IDLE_STEPS)
        return acts


_acts = _Acts()


def effects_of(decisions: Sequence[Decision], before: RuleCounts) -> dict[str, RuleEffect]:
    """Count the effect of each rule, by stage and id.

    ``before`` are those of the compared revision.
    """
    active = list(map(_active, decisions))
    effects: dict[tuple[Stage, str], RuleEffect] = {}
    for rule, times in _counted(active).items():
        effects[rule] = RuleEffect(against=times, was_against=before.get(rule, 0))
    for rule in before.keys() - effects.keys():
        effects[rule] = RuleEffect(was_against=before[rule])
    for notes in active:
        against = [note for note in notes if note.against]
        if len(against) == 1:
            effects[against[0].stage, against[0].rule].alone += 1
    return {f"{stage.value}.{rule}": effect for (stage, rule), effect in effects.items()}
