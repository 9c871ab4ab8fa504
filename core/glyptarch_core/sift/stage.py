"""The stage itself: every rule is asked, so that each can say what it alone would refuse."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.reuse import kept
from glyptarch_core.sift.base import Check, Failing
from glyptarch_core.sift.registry import SiftRule, compile_rule
from glyptarch_core.trace import Note, Stage

__all__ = ["Sifted", "compile_sift"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Sifted:
    """What the rules said of one item: refused, held for a person, or neither."""

    refused: bool
    held: bool
    notes: tuple[Note, ...]


Sift: TypeAlias = Callable[[Captured, datetime, dict[str, object]], Sifted]
"""Compiled rules: an item, the time of the pass and what is kept for the item in, what the rules say out."""


def _note(rule: SiftRule, check: Check, captured: Captured, now: datetime) -> Note:
    finding = check(captured, now)
    return Note(
        stage=Stage.SIFT,
        rule=rule.id,
        code=finding.code,
        against=not finding.passed,
        data={**finding.data, "failing": rule.failing.value},
    )


def _key(rule: SiftRule, lists: Mapping[str, tuple[str, ...]]) -> str:
    """Give all that the rule's word on an item depends on."""
    words = [lists.get(key, ()) for key in rule.uses_lists]
    return f"sift {rule.model_dump_json()} {words}"


def compile_sift(rules: Sequence[SiftRule], lists: Mapping[str, tuple[str, ...]]) -> Sift:
    """Compile the rules that are on into one function; ``lists`` are the blog's word lists by key."""
    checks = [(rule, compile_rule(rule, lists), _key(rule, lists)) for rule in rules if rule.on]

    def sift(captured: Captured, now: datetime, results: dict[str, object]) -> Sifted:
        refused = held = False
        notes: list[Note] = []
        for rule, check, key in checks:
            if rule.looks_at_clock:
                note = _note(rule, check, captured, now)
            else:
                note = kept(results, key, lambda rule=rule, check=check: _note(rule, check, captured, now))  # type: ignore[misc]
            if note.against:
                refused |= rule.failing is Failing.REFUSE
                held |= rule.failing is Failing.HOLD
            notes.append(note)
        return Sifted(refused=refused, held=held, notes=tuple(notes))

    return sift
