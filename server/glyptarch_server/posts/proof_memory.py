"""The memory of proofs: answers are cached briefly, so that an edit asks only for new items.

A run never uses it, because a run needs the present state.
"""

import threading
import time
from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from glyptarch_core.ports import Candidate, Key, Memory, Near, Reach, Seen

from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.posts.memory import PostMemory, memory_stamp

__all__ = ["ProofMemory"]

_SECONDS = 30.0
_MOST = 6


@dataclass(slots=True)
class _Answers:
    """Cached answers for one campaign, set of items and reach, valid until the next write."""

    until: float
    exact: dict[Key, Seen | None] = field(default_factory=dict)
    near: dict[tuple[Near, tuple[int, ...]], Sequence[Candidate]] = field(default_factory=dict)


_kept: dict[Hashable, _Answers] = {}
_lock = threading.Lock()


class ProofMemory(Memory):
    """A cache over :class:`PostMemory`, valid until the next post is written."""

    def __init__(self, campaign: Campaign, *, leaving_out: Collection[int]) -> None:
        self._memory = PostMemory(campaign, leaving_out=leaving_out)
        self._name = (campaign.pk, tuple(leaving_out), memory_stamp())

    @property
    def stamp(self) -> Hashable:
        """Changes whenever something is written that an answer could depend on."""
        return self._name

    def _answers(self, reach: Reach) -> _Answers:
        # The reach begins at another moment in each proof; the day is precise enough for a cache key.
        name = (*self._name, reach.scope, reach.refused, reach.since.date() if reach.since else None)
        now = time.monotonic()
        with _lock:
            cached = _kept.get(name)
            if cached is None or cached.until < now:
                cached = _kept[name] = _Answers(until=now + _SECONDS)
                while len(_kept) > _MOST:
                    _kept.pop(next(iter(_kept)))
            return cached

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        """Return what is known of the keys.

        Uncached ones are queried.
        """
        answers = self._answers(reach).exact
        missing = [key for key in keys if key not in answers]
        if missing:
            recalled = self._memory.recall(missing, reach)
            answers.update({key: recalled.get(key) for key in missing})
        return {key: seen for key in keys if (seen := answers[key]) is not None}

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        """Return the candidates for each.

        Uncached ones are queried.
        """
        answers = self._answers(reach).near
        names = [(near, tuple(some)) for some in keys]
        missing = list(dict.fromkeys(name for name in names if name not in answers))
        if missing:
            resembling_posts = self._memory.resembling(near, [name[1] for name in missing], reach)
            answers.update(dict(zip(missing, resembling_posts, strict=True)))
        return [answers[name] for name in names]

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        """Return the taken dates, uncached, since a proof asks once."""
        return self._memory.dates(first, last)

    def put_out(self, since: datetime) -> Sequence[datetime]:
        """Return the publication times, uncached, since a proof asks once."""
        return self._memory.put_out(since)
