"""The stage itself: every rule is asked, so that each can say what it alone would refuse."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Failing
from glyptarch_core.sift.registry import COMPILERS, SiftRule
from glyptarch_core.trace import Note, Stage

__all__ = ["Sifted", "compile_sift"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Sifted:
    """What the rules said of one item: refused, held for a person, or neither."""

    refused: bool
    held: bool
    notes: tuple[Note, ...]


def compile_sift(rules: Sequence[SiftRule]) -> Callable[[Captured, datetime], Sifted]:
    """Compile the rules that are on into one function over an item and the time of the pass."""
    checks = [(rule, COMPILERS[type(rule)](rule)) for rule in rules if rule.on]

    def sift(captured: Captured, now: datetime) -> Sifted:
        refused = held = False
        notes: list[Note] = []
        for rule, check in checks:
            finding = check(captured, now)
            if not finding.passed:
                refused |= rule.failing is Failing.REFUSE
                held |= rule.failing is Failing.HOLD
            notes.append(
                Note(
                    stage=Stage.SIFT,
                    rule=rule.id,
                    code=finding.code,
                    against=not finding.passed,
                    data={**finding.data, "failing": rule.failing.value},
                )
            )
        return Sifted(refused=refused, held=held, notes=tuple(notes))

    return sift
