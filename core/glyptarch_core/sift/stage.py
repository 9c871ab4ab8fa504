"""The stage itself: every rule is asked, so that each can say what it alone would refuse."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TypeAlias, cast

from glyptarch_core.item import Captured
from glyptarch_core.reuse import MOST_KEPT
from glyptarch_core.sift.base import Check, Cued, Failing, Finding
from glyptarch_core.sift.cues import Cues
from glyptarch_core.sift.registry import SiftRule, compile_rule
from glyptarch_core.trace import Note, Stage

__all__ = ["Sifted", "compile_sift"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Sifted:
    """What the rules said of one item: refused, held for a person, or neither."""

    refused: bool
    held: bool
    notes: tuple[Note, ...]


_FEW = 4

Sift: TypeAlias = Callable[[Captured, datetime, dict[str, object]], Sifted]
"""Compiled rules: an item, the time of the pass and what is kept for the item in, what the rules say out."""


class _Asked:
    """One rule, ready to be asked of any item."""

    def __init__(self, rule: SiftRule, lists: Mapping[str, tuple[str, ...]]) -> None:
        self.rule = rule
        self.check: Check = compile_rule(rule, lists)
        self.refuses = rule.failing is Failing.REFUSE
        self.looks_at_clock = rule.looks_at_clock
        words = [lists.get(key, ()) for key in rule.uses_lists]
        # All that the rule's word on an item depends on.
        self.key = f"sift {rule.model_dump_json()} {words}"
        self.quiet = self.note(self.check.cue.otherwise) if isinstance(self.check, Cued) else None

    def note(self, finding: Finding) -> Note:
        """Put on record what the rule found."""
        return Note(
            stage=Stage.SIFT,
            rule=self.rule.id,
            code=finding.code,
            against=not finding.passed,
            data={**finding.data, "failing": self.rule.failing.value},
        )


def compile_sift(rules: Sequence[SiftRule], lists: Mapping[str, tuple[str, ...]]) -> Sift:
    """Compile the rules that are on into one function; ``lists`` are the blog's word lists by key."""
    asked = [_Asked(rule, lists) for rule in rules if rule.on]
    cues = Cues([one.check.cue if isinstance(one.check, Cued) else None for one in asked])
    steady = [(number, one) for number, one in enumerate(asked) if not one.looks_at_clock]

    def words(captured: Captured, now: datetime, results: dict[str, object]) -> None:
        """Keep what the rules say that have not been asked of this item, but those that look at the clock."""
        missing = [pair for pair in steady if pair[1].key not in results]
        # To look which cues stand in the item pays when many rules are to be asked, as at first.
        found = cues.standing_in(captured) if len(missing) > _FEW else None
        for number, one in missing:
            quiet = found is not None and one.quiet is not None and number not in found
            results[one.key] = one.quiet if quiet else one.note(one.check(captured, now))
        while len(results) > MOST_KEPT:
            results.pop(next(iter(results)))

    def sift(captured: Captured, now: datetime, results: dict[str, object]) -> Sifted:
        words(captured, now, results)
        refused = held = False
        notes: list[Note] = []
        for one in asked:
            note = one.note(one.check(captured, now)) if one.looks_at_clock else cast("Note", results[one.key])
            if note.against:
                refused |= one.refuses
                held |= not one.refuses
            notes.append(note)
        return Sifted(refused=refused, held=held, notes=tuple(notes))

    return sift
