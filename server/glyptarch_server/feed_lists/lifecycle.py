"""The outcomes of the entries of a list."""

from enum import StrEnum

__all__ = ["EntryOutcome"]


class EntryOutcome(StrEnum):
    """What became of an entry of a list.

    ``WAITING`` entries are not sources yet, ``ADDED`` ones are and have not been read. ``KNOWN`` ones were sources
    before. ``BAD`` and ``DOUBLE`` ones are no sources.
    """

    WAITING = "waiting"
    ADDED = "added"
    READ = "read"
    FAILED = "failed"
    KNOWN = "known"
    DOUBLE = "double"
    BAD = "bad"
