"""Letting items through that the rules stop, because a person wants their posts."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from types import MappingProxyType

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, Memory
from glyptarch_core.trace import Decision, Json, Note, Stage

__all__ = ["decide_letting_through"]

_PLACE: Mapping[Stage, int] = MappingProxyType({stage: place for place, stage in enumerate(Stage)})


def decide_letting_through(
    items: Sequence[Captured],
    document: CampaignDocument,
    *,
    memory: Memory,
    now: datetime,
    context: BlogContext,
    by: str,
) -> list[Decision]:
    """Decide items as the rules do, without what stops them in Sift and Match.

    Limits do not apply. What the source's rights allow and what Release holds counts as ever. Each trace keeps what the
    rules had against the item, and names ``by``, the person who lets it through. An item of which nothing is left
    becomes no post.
    """
    stopped = decide(items, document, memory=memory, now=now, context=context)
    let = decide(items, document.letting_through(), memory=memory, now=now, context=context)
    return [_joined(before, after, by) for before, after in zip(stopped, let, strict=True)]


def _joined(before: Decision, after: Decision, by: str) -> Decision:
    """Return the decision that a person wants, with the trace of both."""
    if not after.verdict.kept:
        return after
    reason, left_at = before.reason, before.left_at
    data: dict[str, Json] = {"by": by, "stage": left_at.value if left_at else "", "code": reason.code if reason else ""}
    note = Note(stage=left_at or Stage.RELEASE, code="release.let_through", data=data)
    if left_at is None:
        return replace(after, trace=(*after.trace, note))
    # What spoke against it is told, but no note is against the item any more.
    told = tuple(replace(each, against=False) for each in before.trace)
    later = tuple(each for each in after.trace if _PLACE[each.stage] > _PLACE[left_at])
    return replace(after, trace=(*told, note, *later))
