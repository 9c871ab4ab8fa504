"""The memory of a replay: of the campaign's posts, only those it has kept so far."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from typing import TypeVar

from django.db.models import Exists, OuterRef, Q, QuerySet
from glyptarch_core.draft import Draft
from glyptarch_core.item import Captured
from glyptarch_core.match import keys_of, near_keys
from glyptarch_core.ports import Candidate, ItemRef, Key, Near, PostRef, Reach, Seen

from glyptarch_server.common.lookups import AnyOf, Shares, by_index
from glyptarch_server.posts.memory import CANDIDATES, MEASURED, PostMemory, candidate_of, key_hash, most_alike
from glyptarch_server.posts.models import NearKeys, PostKey
from glyptarch_server.replay.lifecycle import KEPT
from glyptarch_server.replay.models import NewStory, Replay, ReplayResult

__all__ = ["ReplayMemory"]

_Row = TypeVar("_Row", PostKey, NearKeys)
_STORY = ("item__source__key", "item__identity", "title", "item__link", "at")


def _written(key: Key) -> str:
    return f"{key.kind.value}:{key_hash(key.value)}"


def _seen(source: str, identity: str, title: str, link: str, at: datetime) -> Seen:
    return Seen(ref=ItemRef(source, identity), title=title, link=link, at=at)


def _is_post(seen: Seen | None) -> bool:
    return seen is not None and isinstance(seen.ref, PostRef)


class ReplayMemory(PostMemory):
    """The posts that would exist if the replay's rules had always applied.

    Items later in the replay do not count yet, nor those it refuses, nor later posts of other campaigns. New posts of
    the replay count; they are stored with it, so that a repeated pass knows them.
    """

    def __init__(self, replay: Replay, *, writing: bool = False) -> None:
        """Load the results so far. While new posts are being written, they count once written."""
        super().__init__(replay.campaign)
        self._replay = replay
        # The time of the present items; later posts of other campaigns do not count.
        self.at: datetime | None = None
        self._any_new = not writing and NewStory.objects.filter(replay=replay).exists()

    def add_new(self, stories: Sequence[tuple[int, Captured, Draft]]) -> None:
        """Remember items that would be new posts, each with its number."""
        rows = []
        for number, captured, draft in stories:
            near = near_keys(captured)
            rows.append(
                NewStory(
                    replay=self._replay,
                    item_id=number,
                    title=draft.title[:300],
                    at=draft.date,
                    keys=[_written(key) for key in keys_of(captured)],
                    text_keys=near[Near.TEXT],
                    title_keys=near[Near.TITLE],
                )
            )
        NewStory.objects.bulk_create(rows, ignore_conflicts=True)
        self._any_new = self._any_new or bool(rows)

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Answer from the posts, and from what would be new."""
        posts = dict(super().recall(keys, reach))
        by_written = {_written(key): key for key in keys} if self._any_new else {}
        if by_written:
            with by_index():
                rows = self._new(reach).filter(Shares("keys", by_written)).order_by("-at", "-pk")
                for theirs, *story in list(rows.values_list("keys", *_STORY)):
                    # Later rows replace earlier ones, so the last is the earliest. Existing posts take precedence.
                    new = {by_written[their]: _seen(*story) for their in theirs if their in by_written}
                    posts = posts | {key: seen for key, seen in new.items() if not _is_post(posts.get(key))}
        return posts

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> list[list[Candidate]]:
        """Answer from the posts, and from what would be new."""
        candidates = super().resembling(near, keys, reach)
        if not self._any_new or not any(keys):
            return candidates
        with by_index():
            best = most_alike(NewStory.objects.filter(replay=self._replay), f"{near.value}_keys", keys)
            rows = self._new(reach).filter(AnyOf("pk", {pk for some in best for pk in some}))
            new = {
                pk: candidate_of(_seen(*more[: len(_STORY)]), *more[len(_STORY) :])
                for pk, *more in rows.values_list("pk", *_STORY, *MEASURED)
            }
        return [
            [*posts, *(new[pk] for pk in some if pk in new)][:CANDIDATES]
            for posts, some in zip(candidates, best, strict=True)
        ]

    def _new(self, reach: Reach) -> QuerySet[NewStory]:
        rows = NewStory.objects.filter(replay=self._replay)
        return rows.filter(at__gte=reach.since) if reach.since is not None else rows

    def dates(self, first: datetime, last: datetime) -> list[datetime]:
        """Return no dates: posts keep theirs, or get that of their item."""
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
