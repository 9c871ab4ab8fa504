"""The memory that a replay asks: of the campaign's own posts only those that it has kept so far."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import TypeVar

from django.db.models import Exists, OuterRef, Q, QuerySet
from glyptarch_core.ports import ItemRef, Key, Reach, Seen

from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import NearKeys, PostKey
from glyptarch_server.replay.lifecycle import KEPT
from glyptarch_server.replay.models import Replay, ReplayResult

__all__ = ["ReplayMemory"]

_Row = TypeVar("_Row", PostKey, NearKeys)
_MOST_NEW = 200_000


class ReplayMemory(PostMemory):
    """What would be there if the replay's rules had stood from the beginning.

    Items that come later in the replay do not count yet, nor those that it refuses, nor posts of other campaigns that
    were made later. Those that would be new are
    remembered by their keys (not by nearly the same text: of these no index is kept).
    """

    def __init__(self, replay: Replay) -> None:
        super().__init__(replay.campaign)
        self._replay = replay
        # When the items that are decided now came: of other campaigns only what was there by then counts.
        self.at: datetime | None = None
        self._new: dict[Key, Seen] = {}

    def add_new(self, keys: Collection[Key], ref: ItemRef, title: str, link: str, at: datetime) -> None:
        """Remember an item that would be a new post."""
        if len(self._new) < _MOST_NEW:
            seen = Seen(ref=ref, title=title, link=link, at=at)
            self._new |= {key: seen for key in keys if key not in self._new}

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Answer from the database, and from what is new."""
        found = dict(super().recall(keys, reach))
        return {key: self._new[key] for key in keys if key in self._new} | found

    def dates(self, first: datetime, last: datetime) -> list[datetime]:
        """No date is taken: posts keep theirs, or get that of their item."""
        del first, last
        return []

    def put_out(self, since: datetime) -> list[datetime]:
        """Nothing was put out: a replay sends nothing out."""
        del since
        return []

    def _within(self, rows: QuerySet[_Row], reach: Reach) -> QuerySet[_Row]:
        kept = ReplayResult.objects.filter(replay=self._replay, item=OuterRef("item"), outcome__in=KEPT)
        own = self._replay.campaign
        others = ~Q(post__campaign=own) & ~Q(campaign=own)
        if self.at is not None:
            others &= Q(post__created_at__lt=self.at)
        return super()._within(rows, reach).filter(others | Exists(kept))
