"""The Sift stage: every rule is evaluated, so that each can show what it alone would refuse."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Any, NamedTuple, TypeAlias

from glyptarch_core.item import Captured
from glyptarch_core.reuse import MOST_KEPT, Kept
from glyptarch_core.sift.base import Check, Failing, Finding, Prefiltered
from glyptarch_core.sift.prefilter import PrefilterIndex, finder
from glyptarch_core.sift.registry import SiftRule, compile_rule
from glyptarch_core.trace import Note, Stage, speaks_against

__all__ = ["Sifted", "compile_sift"]


class Sifted(NamedTuple):
    """The result of Sift for one item: refused, held, or neither."""

    refused: bool
    held: bool
    notes: tuple[Note, ...]


_FEW = 4

Sift: TypeAlias = Callable[[Captured, datetime, Kept], Sifted]
"""Compiled rules: an item, the time of the pass and what is kept for the item in, what the rules say out."""


class _Asked:
    """One rule, ready to be asked of any item."""

    def __init__(self, rule: SiftRule, lists: Mapping[str, tuple[str, ...]]) -> None:
        self.rule = rule
        self.check: Check = compile_rule(rule, lists)
        self.refuses = rule.failing is Failing.REFUSE
        self.looks_at_clock = rule.looks_at_clock
        words = [lists.get(key, ()) for key in rule.uses_lists]
        # Everything that the rule's finding depends on besides the item.
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


class _Last(NamedTuple):
    """The last results of the rules for an item, with their keys."""

    keys: tuple[str, ...]
    sifted: Sifted


class _Changes:
    """The rules that differ from an earlier pass, computed once for each such pass."""

    def __init__(self, asked: Sequence[_Asked], keys: tuple[str, ...]) -> None:
        self._keys = keys
        self._look_at_clock = {number for number, rule in enumerate(asked) if rule.looks_at_clock}
        # The keys are stored beside their id, so that the id is not reused.
        self._known: dict[int, tuple[tuple[str, ...], list[int] | None]] = {}

    def since(self, before: tuple[str, ...]) -> list[int] | None:
        """Return the positions of rules to evaluate again.

        None where there are too many.
        """
        positions = self._known.get(id(before))
        if positions is None:
            positions = self._known[id(before)] = before, self._differing(before)
        return positions[1]

    def _differing(self, before: tuple[str, ...]) -> list[int] | None:
        if len(before) != len(self._keys):
            return None
        differing = {place for place, (key, other) in enumerate(zip(self._keys, before, strict=True)) if key != other}
        positions = sorted(differing | self._look_at_clock)
        return positions if len(positions) <= _FEW else None


class _Compiled:
    """The rules of a document that are on."""

    def __init__(self, rules: Sequence[SiftRule], lists: Mapping[str, tuple[str, ...]]) -> None:
        self._asked = [_Asked(rule, lists) for rule in rules if rule.on]
        checks = [rule.check for rule in self._asked]
        self._prefilters = PrefilterIndex(
            [check.prefilter if isinstance(check, Prefiltered) else None for check in checks]
        )
        self._keys = tuple(rule.key for rule in self._asked)
        self._most = max(MOST_KEPT, 2 * len(self._keys))
        self._changes = _Changes(self._asked, self._keys)

    def __call__(self, captured: Captured, now: datetime, kept: Kept) -> Sifted:
        last: _Last | None = kept.sifted
        changed = None if last is None else self._changes.since(last.keys)
        if last is None or changed is None:
            notes: list[Any] = list(map(kept.results.get, self._keys))
        elif not changed:
            return last.sifted
        else:
            # Most edits change one rule, so the other notes are copied together.
            notes = list(last.sifted.notes)
            for place in changed:
                notes[place] = kept.results.get(self._keys[place])
        missing = [place for place in changed or range(len(notes)) if notes[place] is None]
        if missing:
            self._fill(notes, missing, captured, now, kept.results)
        sifted = self._sifted(tuple(notes))
        kept.sifted = _Last(self._keys, sifted)
        return sifted

    def _fill(
        self,
        notes: list[Any],
        missing: Sequence[int],
        captured: Captured,
        now: datetime,
        results: dict[str, Any],
    ) -> None:
        """Evaluate the missing rules for an item.

        Results are kept unless they depend on the time.
        """
        # The prefilter lookup pays when many rules are missing, as in the first pass.
        occurring = self._prefilters.found_in(captured) if len(missing) > _FEW else None
        for place in missing:
            rule = self._asked[place]
            speaks = rule.may_speak(captured) if occurring is None else place in occurring
            note = rule.quiet if rule.quiet is not None and not speaks else rule.note(rule.check(captured, now))
            notes[place] = note
            if not rule.looks_at_clock:
                results[rule.key] = note
        while len(results) > self._most:
            results.pop(next(iter(results)))

    def _sifted(self, notes: tuple[Note, ...]) -> Sifted:
        if not speaks_against(notes):
            return Sifted(refused=False, held=False, notes=notes)
        against = [rule.refuses for rule, note in zip(self._asked, notes, strict=True) if note.against]
        return Sifted(refused=True in against, held=False in against, notes=notes)


def compile_sift(rules: Sequence[SiftRule], lists: Mapping[str, tuple[str, ...]]) -> Sift:
    """Compile the rules that are on into one function.

    ``lists`` are the blog's word lists by key.
    """
    return _Compiled(rules, lists)
