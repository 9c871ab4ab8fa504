"""Common passages of a blog: stock sentences, standing forms, boilerplate.

A passage of many stories says little about which story a text is. So the weight of a shingle falls with the number of
stories that have it (inverse document frequency; Spärck Jones 1972).
"""

import hashlib
import struct
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

__all__ = ["NOTHING_COMMON", "CommonShingles"]

FEWEST_STORIES = 3
"""A shingle of so many stories is common. One of two is a story and what followed it."""

_MOST = 20_000
_ENTRY = struct.Struct("<QI")


@dataclass(frozen=True)
class CommonShingles:
    """The number of stories of a blog with each common shingle, by its hash.

    Compared by the counts.
    """

    counts: Mapping[int, int]

    def __hash__(self) -> int:
        """Return one number for all counts."""
        return hash(self.digest)

    @cached_property
    def digest(self) -> str:
        """Name the counts: equal digests mean equal counts."""
        return hashlib.blake2b(self.packed(), digest_size=12).hexdigest()

    @classmethod
    def learned(cls, sketches: Iterable[tuple[int, ...]]) -> "CommonShingles":
        """Count the shingles of stories by their sketches.

        The 20,000 most common are kept.
        """
        arrays = [np.array(sketch, dtype=np.uint64) for sketch in sketches if sketch]
        if not arrays:
            return NOTHING_COMMON
        hashes, counts = np.unique(np.concatenate(arrays), return_counts=True)
        common = counts >= FEWEST_STORIES
        hashes, counts = hashes[common], counts[common]
        most = np.argsort(-counts, kind="stable")[:_MOST]
        return cls(dict(zip(hashes[most].tolist(), counts[most].tolist(), strict=True)))

    def weight(self, shingle: int) -> float:
        """Return the weight of a shingle, from 0 to 1."""
        return 1 / self.counts.get(shingle, 1)

    def packed(self) -> bytes:
        """Return the counts as bytes, 12 for each."""
        return b"".join(_ENTRY.pack(shingle, count) for shingle, count in sorted(self.counts.items()))

    @classmethod
    def unpacked(cls, data: bytes | memoryview) -> "CommonShingles":
        """Return the counts from the bytes of :meth:`packed`. Raises ValueError for other bytes."""
        try:
            return cls(dict(_ENTRY.iter_unpack(data)))
        except struct.error as error:
            raise ValueError("these bytes are no counts of shingles") from error


NOTHING_COMMON = CommonShingles({})
"""For a blog that has no stories yet."""
