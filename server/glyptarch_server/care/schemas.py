"""API schemas of for how long records are kept."""

from ninja import Schema

from glyptarch_server.blogs.keeping import Keeping, Record
from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = ["FreedIn", "FreedOut", "KeepingIn", "KeepingOut", "KeptOut"]


class KeptOut(Out):
    """For how many days a kind of record is kept, and whether the blog says so."""

    record: Record
    days: int
    usual: int
    least: int
    most: int
    is_own: bool


class KeepingOut(Out):
    """For how long the records of a blog are kept, and the version of its settings."""

    version: int
    keeping: Keeping
    records: list[KeptOut]


class KeepingIn(Schema):
    """For how long the records of a blog are to be kept."""

    keeping: Keeping
    begun: Begun = None


class FreedIn(Schema):
    """Days for which records would be kept."""

    keeping: Keeping


class FreedOut(Out):
    """What would be freed of a kind of record.

    ``number`` is at most 100,000, ``size`` about the bytes.
    """

    record: Record
    number: int
    size: int
