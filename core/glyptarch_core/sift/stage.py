"""The stage itself: every rule is asked, so that each can say what it alone would refuse."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TypeAlias, cast

from glyptarch_core.item import Captured
from glyptarch_core.reuse import MOST_KEPT
from glyptarch_core.sift.base import Check, Failing, Finding, Prefiltered
from glyptarch_core.sift.prefilter import PrefilterIndex, finder
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
        self.may_speak: Callable[[Captured], bool] = lambda _captured: True
        self.quiet: Note | None = None
        if isinstance(self.check, Prefiltered):
            self.may_speak = finder(self.check.prefilter)
            self.quiet = self.note(self.check.prefilter.otherwise)

    def note(self, finding: Finding) -> Note:
        """Put on record what the rule found."""
        return Note(
            stage=Stage.SIFT,
            rule=self.rule.id,
            rule_title=self.rule.title,
            code=finding.code,
            against=not finding.passed,
            data={**finding.data, "failing": self.rule.failing.value},
        )


def compile_sift(rules: Sequence[SiftRule], lists: Mapping[str, tuple[str, ...]]) -> Sift:
    """Compile the rules that are on into one function; ``lists`` are the blog's word lists by key."""
    asked = [_Asked(rule, lists) for rule in rules if rule.on]
    prefilters = PrefilterIndex([one.check.prefilter if isinstance(one.check, Prefiltered) else None for one in asked])
    keys = [one.key for one in asked]

    def fill(notes: list[Note | None], captured: Captured, now: datetime, results: dict[str, object]) -> None:
        """Ask the rules that have not been asked of this item; keep what they say, unless they look at the clock."""
        missing = [number for number, note in enumerate(notes) if note is None]
        # To look which prefilters stand in the item pays when many rules are to be asked, as at first.
        found = prefilters.found_in(captured) if len(missing) > _FEW else None
        for number in missing:
            one = asked[number]
            speaks = one.may_speak(captured) if found is None else number in found
            note = one.quiet if one.quiet is not None and not speaks else one.note(one.check(captured, now))
            notes[number] = note
            if not one.looks_at_clock:
                results[one.key] = note
        while len(results) > max(MOST_KEPT, 2 * len(keys)):
            results.pop(next(iter(results)))

    def sift(captured: Captured, now: datetime, results: dict[str, object]) -> Sifted:
        found = cast("list[Note | None]", list(map(results.get, keys)))
        if not all(found):
            fill(found, captured, now, results)
        notes = tuple(cast("list[Note]", found))
        against = [asked[number].refuses for number, note in enumerate(notes) if note.against]
        return Sifted(refused=True in against, held=False in against, notes=notes)

    return sift
