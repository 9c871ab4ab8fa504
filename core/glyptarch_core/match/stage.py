"""The stage itself: one look into memory for the whole batch, then the batch against itself."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

from pydantic import Field

from glyptarch_core.item import Captured, Item
from glyptarch_core.match.registry import TRAITS, MatchRule
from glyptarch_core.match.rules import SameIdentity, SameLink, SameTitle
from glyptarch_core.ports import Key, KeyKind, Memory, Scope, Seen
from glyptarch_core.settings import Settings
from glyptarch_core.trace import Note, Stage

__all__ = ["MatchSettings", "Matched", "OnMatch", "item_ref", "keys_of", "match_batch"]


class OnMatch(StrEnum):
    """What becomes of an item that is already there."""

    REFUSE = "refuse"
    HOLD = "hold"


_DEFAULT_RULES: tuple[MatchRule, ...] = (
    SameIdentity(id="identity"),
    SameLink(id="link"),
    SameTitle(id="title"),
)


class MatchSettings(Settings):
    """Which comparisons are made, against what, and what follows from a match."""

    rules: tuple[MatchRule, ...] = _DEFAULT_RULES
    against: Scope = Scope.BLOG
    within_days: int | None = Field(default=None, ge=1, le=3650)
    on_match: OnMatch = OnMatch.REFUSE


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """What the comparisons said of one item."""

    duplicate: bool
    held: bool
    notes: tuple[Note, ...]


def keys_of(item: Captured) -> tuple[Key, ...]:
    """Give every key a post made from this item is to be remembered by, whatever the rules."""
    features = item.features
    keys = [Key(KeyKind.IDENTITY, features.identity_key)]
    if features.link_key:
        keys.append(Key(KeyKind.LINK, features.link_key))
    if features.title_key:
        keys.append(Key(KeyKind.TITLE, features.title_key))
    return tuple(keys)


def _precedence(captured: Captured) -> tuple[datetime, str, str]:
    return captured.dated, captured.item.source, captured.item.identity


def _seen(captured: Captured) -> Seen:
    item = captured.item
    return Seen(ref=item_ref(item), title=item.title, link=item.link, at=captured.dated)


def item_ref(item: Item) -> str:
    """Name an item of the same pass, where no post exists yet to be named."""
    return f"item:{item.source}:{item.identity}"


def _nothing_alike(settings: MatchSettings) -> Note:
    return Note(stage=Stage.MATCH, code="match.new", data={"against": settings.against.value})


def _note(rule: MatchRule, key: Key, seen: Seen, *, within_pass: bool) -> Note:
    return Note(
        stage=Stage.MATCH,
        rule=rule.id,
        code=f"match.{rule.kind}",
        against=True,
        data={
            "key": key.value,
            "ref": seen.ref,
            "title": seen.title,
            "link": seen.link,
            "at": seen.at.isoformat(),
            "within_pass": within_pass,
        },
    )


_RuleKeys = Mapping[int, Sequence[tuple[MatchRule, Key]]]


def _compared(batch: Iterable[tuple[int, Captured]], rules: Sequence[MatchRule]) -> _RuleKeys:
    traits = [(rule, TRAITS[type(rule)](rule)) for rule in rules if rule.on]
    return {
        place: [(rule, key) for rule, trait in traits if (key := trait(captured)) is not None]
        for place, captured in batch
    }


def match_batch(
    batch: Sequence[tuple[int, Captured]], settings: MatchSettings, *, memory: Memory, now: datetime
) -> dict[int, Matched]:
    """Say for each numbered item whether it is already there.

    Items are taken by date, then source and identity, so that the answer does not depend on the
    order in which they are handed over. The first of several stays; the keys of a duplicate from
    then on name what it matched, so that a chain of likenesses ends in one post.
    """
    compared = _compared(batch, settings.rules)
    wanted = {key for pairs in compared.values() for _, key in pairs}
    since = now - timedelta(days=settings.within_days) if settings.within_days else None
    known = memory.recall(wanted, scope=settings.against, since=since) if wanted else {}
    first: dict[Key, Seen] = {}
    answers: dict[int, Matched] = {}
    for place, captured in sorted(batch, key=lambda numbered: _precedence(numbered[1])):
        pairs = compared[place]
        hits = [(rule, key, known.get(key) or first.get(key)) for rule, key in pairs]
        notes = [_note(rule, key, seen, within_pass=key not in known) for rule, key, seen in hits if seen]
        duplicate = bool(notes) and settings.on_match is OnMatch.REFUSE
        stands = next(seen for _, _, seen in hits if seen) if duplicate else _seen(captured)
        for _, key in pairs:
            first.setdefault(key, stands)
        answers[place] = Matched(
            duplicate=duplicate,
            held=bool(notes) and not duplicate,
            notes=tuple(notes) or (_nothing_alike(settings),),
        )
    return answers
