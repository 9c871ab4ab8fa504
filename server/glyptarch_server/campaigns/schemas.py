"""API schemas of campaigns."""

from datetime import datetime
from typing import Annotated

from glyptarch_core.campaign import MOST_SOURCES, CampaignDocument
from glyptarch_core.schedule import Schedule
from glyptarch_core.settings import LibraryKey
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.fields import RevisionNumber
from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = [
    "ArchiveIn",
    "ArchivedOut",
    "CampaignOut",
    "CreateCampaignIn",
    "LayoutOut",
    "LibraryUsesOut",
    "PauseIn",
    "PausedOut",
    "RenameIn",
    "RevisionOut",
    "RevisionPageOut",
    "SaveIn",
    "ScheduleIn",
    "TakeSourcesIn",
    "TakenOut",
    "TimeZoneIn",
    "TimesIn",
    "TimesOut",
    "UserOut",
    "YamlIn",
    "YamlOut",
]

TimeZone = Annotated[str, StringConstraints(max_length=64)]
"""A name of the IANA time zone database."""

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class CreateCampaignIn(Schema):
    """A short start: the name and the rules to begin with."""

    name: Name
    document: CampaignDocument


class UserOut(Out):
    """A campaign that uses a word list, table or source."""

    slug: str
    name: str


class LibraryUsesOut(Out):
    """The campaigns that use each word list, table of terms and language service, by its key."""

    lists: dict[str, list[UserOut]]
    tables: dict[str, list[UserOut]]
    services: dict[str, list[UserOut]]


class RenameIn(Schema):
    """Another name."""

    name: Name


class SaveIn(Schema):
    """Rules to be saved, and the revision they were edited from."""

    document: CampaignDocument
    base: RevisionNumber
    note: str = Field(default="", max_length=300)


class TakeSourcesIn(Schema):
    """The keys of sources that a campaign gathers as well."""

    keys: list[LibraryKey] = Field(min_length=1, max_length=MOST_SOURCES)


class TakenOut(Out):
    """How many sources a campaign did not have before."""

    added: int


class CampaignOut(Out):
    """A campaign with its latest rules."""

    slug: str
    name: str
    revision: int
    saved_at: datetime
    saved_by: str
    document: CampaignDocument
    schedule: Schedule
    schedule_version: int
    paused: bool
    next_run_at: datetime | None
    time_zone: str


class ScheduleIn(Schema):
    """The schedule of a campaign, and whether it is paused."""

    schedule: Schedule
    paused: bool = False
    version: Begun = None


class TimesIn(Schema):
    """A schedule being edited.

    Without a time zone, that of the blog is used.
    """

    schedule: Schedule
    time_zone: TimeZone = ""


class TimesOut(Out):
    """The next times of a schedule, and the time zone it goes by."""

    times: list[datetime]
    time_zone: str


class PauseIn(Schema):
    """Campaigns to pause or resume, all of the blog where none is named."""

    slugs: list[Annotated[str, StringConstraints(max_length=100)]] = Field(default_factory=list, max_length=5000)
    paused: bool


class PausedOut(Out):
    """The number of changed campaigns."""

    changed: int


class TimeZoneIn(Schema):
    """Another time zone of the blog."""

    time_zone: TimeZone


class RevisionOut(Out):
    """A revision in the list."""

    number: int
    saved_at: datetime
    saved_by: str
    note: str


class LayoutOut(Out):
    """A body to begin from."""

    key: str
    name: str
    purpose: str
    body: str


class YamlIn(Schema):
    """A document as YAML."""

    yaml: str = Field(max_length=500_000)


class YamlOut(Out):
    """A document as YAML, and the name to keep it under."""

    yaml: str
    file_name: str


class RevisionPageOut(Out):
    """One page of revisions."""

    rows: list[RevisionOut]
    total: int


class ArchiveIn(Schema):
    """Whether a campaign is archived."""

    archived: bool


class ArchivedOut(Out):
    """An archived campaign."""

    slug: str
    name: str
    archived_at: datetime
