"""Fakes of the ports and short ways to make items, for tests of the core and its users."""

from collections.abc import Callable, Collection, Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from glyptarch_core.item import Captured, Item, SourceCard, features_of
from glyptarch_core.language_services import Answer, Ask, TextMemory
from glyptarch_core.ports import Candidate, Key, Memory, Near, Reach, Seen

__all__ = ["NOON", "FakeMemory", "FakeTexts", "captured"]

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)


class FakeMemory(Memory):
    """A memory of everything added to it, in every scope."""

    def __init__(self, seen: Mapping[Key, Seen] | None = None, candidates: Sequence[Candidate] = ()) -> None:
        self.seen = dict(seen or {})
        self.candidates = tuple(candidates)
        self.calls = 0
        self.calendar: list[datetime] = []
        self.out: list[datetime] = []

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Return the remembered posts by key, no older than the reach."""
        self.calls += 1
        since = reach.since
        return {key: self.seen[key] for key in keys if key in self.seen and (not since or self.seen[key].at >= since)}

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Return every remembered candidate for each.

        A fake needs no index.
        """
        del near, reach
        return [list(self.candidates) for _ in keys]

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Return the remembered calendar dates."""
        return [date for date in self.calendar if first <= date <= last]

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Return the remembered publication times."""
        return [moment for moment in self.out if moment > since]


class FakeTexts(TextMemory):
    """A text memory with the answers that a test puts into it.

    ``asked`` are all questions that it was asked.
    """

    def __init__(self) -> None:
        self.answers: dict[str, Answer] = {}
        self.asked: dict[str, Ask] = {}
        self.calls = 0

    @property
    def stamp(self) -> int:
        """The number of the answers: they are only ever added."""
        return len(self.answers)

    def known(self, asks: Collection[Ask]) -> Mapping[str, Answer]:
        """Return the answers that are there."""
        self.calls += 1
        self.asked |= {ask.key: ask for ask in asks}
        return {ask.key: self.answers[ask.key] for ask in asks if ask.key in self.answers}

    def answer_all(self, say: Callable[[Ask], Answer]) -> None:
        """Answer every question that was asked and has no answer yet."""
        for key, ask in self.asked.items():
            self.answers.setdefault(key, say(ask))


def captured(identity: str = "one", *, at: datetime = NOON, **fields: Any) -> Captured:  # noqa: ANN401
    """Return a captured item.

    ``fields`` are those of Item.
    """
    values: dict[str, Any] = {
        "source": "club",
        "identity": identity,
        "link": f"https://club.example/{identity}",
        "title": f"Story {identity} of the night",
        "body": f"<p>Text of {identity} as it was told in the field.</p>",
        "published": NOON,
    }
    item = Item(**{**values, **fields})
    return Captured(
        item=item, features=features_of(item), source=SourceCard(key=item.source, title="The club"), captured_at=at
    )
