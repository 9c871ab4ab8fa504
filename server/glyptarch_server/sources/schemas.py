"""API schemas of sources."""

from datetime import datetime
from typing import Annotated, Any, Literal

from glyptarch_core.health import Health
from glyptarch_core.item import Right
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = [
    "AccessIn",
    "AccessOfManyIn",
    "AccessOut",
    "AddPageSourceIn",
    "AddPlatformSourceIn",
    "AddSourceIn",
    "AddressPatternIn",
    "AddressPatternOut",
    "AskedOut",
    "AsksIn",
    "AsksYaml",
    "ChangeManyIn",
    "ChangeSourceIn",
    "ChangedOut",
    "CheckIn",
    "CheckedOut",
    "ChosenIn",
    "ChosenOut",
    "FeedLinkOut",
    "HeaderIn",
    "LastAskedOut",
    "ReadWarningOut",
    "ReadingOut",
    "SaidRight",
    "SampleOut",
    "SourceDetailOut",
    "SourceOut",
    "SourcePageOut",
    "SourceSearch",
    "WordsLine",
]

Address = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]
SaidRight = Annotated[
    Right | None,
    Field(default=None, description="What posts may carry. Left out, it is an excerpt until somebody says so."),
]


class CheckIn(Schema):
    """Addresses to be tried, as a person typed or pasted them."""

    addresses: list[Address] = Field(min_length=1, max_length=30)


class AddSourceIn(Schema):
    """A tested address, and the name of the source.

    The feed's own where empty.
    """

    url: Address
    title: str = Field(default="", max_length=300)
    right: SaidRight = None


class AddPageSourceIn(Schema):
    """A page reader for a site, its list page (the reader's own where empty), and a name."""

    reader: str = Field(max_length=60)
    url: str = Field(default="", max_length=2000)
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
    right: SaidRight = None
    rendered: bool = Field(default=False, description="Whether its pages are read after their scripts have run.")


class WordsLine(Schema):
    """A line of search words, and whether it is asked for."""

    text: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
    on: bool = True


class AsksIn(Schema):
    """The platform parameters of a source and its connection (empty for none)."""

    connection: str = Field(default="", max_length=60)
    parameters: dict[str, Any]
    search_words: list[WordsLine] = Field(default=[], max_length=100)


class ChangeAsksIn(AsksIn):
    """Changed platform parameters."""

    version: Begun = None


class AddPlatformSourceIn(AsksIn):
    """A source that is read from a platform."""

    platform: str = Field(max_length=20)
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
    right: SaidRight = None


class AsksYaml(Schema):
    """The platform parameters of a source as YAML."""

    yaml: str = Field(max_length=100_000)


class AskedOut(Out):
    """Validated platform parameters from YAML, to be used with an own connection."""

    platform: str
    title: str
    parameters: dict[str, Any]
    search_words: list[WordsLine]


class LastAskedOut(Out):
    """What the newest source on a platform asks for, with its name."""

    source: str
    connection: str
    parameters: dict[str, Any]


class ChangeSourceIn(Schema):
    """Name, rights and keyword of a source."""

    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
    right: Right
    right_words: int = Field(ge=1, le=10_000)
    attribution: str = Field(default="", max_length=300)
    keyword: str = Field(default="", max_length=80)
    reads_pages: bool = False
    full_text_words: int = Field(default=0, ge=0, le=100_000)
    text_reader: str = Field(default="", max_length=60, description="The page reader that finds the text of pages.")
    text_selector: str = Field(default="", max_length=500, description="Where the text of pages stands.")
    rendered: bool = Field(default=False, description="Whether pages are read after their scripts have run.")
    rendered_hosts: list[Annotated[str, StringConstraints(max_length=200)]] = Field(default=[], max_length=10)
    version: Begun = None


class AddressPatternIn(Schema):
    """A name, and an address with one named place in braces."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]
    address: Address


class AddressPatternOut(Out):
    """An address template of feeds.

    ``place`` is its placeholder.
    """

    id: int
    name: str
    address: str
    place: str


class ReadWarningOut(Out):
    """An oddity of a feed.

    ``entry`` counts from 1, 0 is the feed itself.
    """

    code: str
    entry: int
    detail: str


class SampleOut(Out):
    """One of the newest items of a tried feed."""

    title: str
    link: str
    published: datetime | None
    words: int
    picture: str


class FeedLinkOut(Out):
    """A feed that a page points to."""

    url: str
    title: str
    format: str


class CheckedOut(Out):
    """The result of testing an address: a feed (with a format), feeds it names, or an error."""

    address: str
    url: str
    format: str
    title: str
    items: int
    samples: list[SampleOut]
    fields: dict[str, int]
    leads_to: list[FeedLinkOut]
    warnings: list[ReadWarningOut]
    error: str
    detail: str
    remedy: str
    milliseconds: int
    known_as: str


class SourceOut(Out):
    """A source in the list, with how its last reading went."""

    key: str
    version: int = Field(description="Counts what people have changed of it.")
    title: str
    url: str
    link: str
    format: str
    language: str
    right: Right
    right_said: bool = Field(description="Whether a person has said what posts may carry.")
    right_words: int
    attribution: str
    keyword: str
    reads_pages: bool
    full_text_words: int
    text_reader: str = Field(description="The key of the page reader that finds the text; empty for none.")
    text_selector: str
    rendered: bool
    rendered_hosts: list[str]
    platform: str = Field(description="The platform it is read from; empty for none.")
    connection: str
    connection_trouble: str = Field(description="Why its connection cannot be used; empty where nothing is known.")
    parameters: dict[str, Any]
    search_words: list[WordsLine]
    items: int
    read_at: datetime | None
    read_error: str
    read_detail: str
    days: list[int]
    health: Health
    health_data: dict[str, Any]
    failing_since: datetime | None
    cause: str = Field(description="Why it cannot be read, as the rest of a sentence; empty where it can.")
    remedy: str = Field(description="What a person can do where it cannot be read; empty where it can.")
    next_read_at: datetime | None
    labels: list[str]
    paused: bool
    blocked: bool = Field(description="Whether it was asked to be withdrawn: nothing reads it.")
    any_certificate: bool
    reader: str = Field(description="The key of the page reader; empty for a feed.")
    in_doubt: bool = Field(description="Whether the layout of its site has changed under its reader.")
    former_url: str = Field(description="The address before the source moved for good; empty where it has not.")


class SourcePageOut(Out):
    """One page of sources, and the labels of all."""

    rows: list[SourceOut]
    total: int
    labels: list[str]


class ChosenIn(Schema):
    """The sources of a campaign: their keys, and labels whose sources all belong to it."""

    keys: list[Annotated[str, StringConstraints(max_length=60)]] = Field(default=[], max_length=10_000)
    labels: list[Annotated[str, StringConstraints(max_length=60)]] = Field(default=[], max_length=50)


class ChosenOut(Out):
    """The first sources of a campaign, their number, and the keys that name none."""

    rows: list[SourceOut]
    total: int
    lost: list[str]


class PickedSources(Schema):
    """Several sources, by their keys or as all that a search finds."""

    keys: list[Annotated[str, StringConstraints(max_length=60)]] = Field(default=[], max_length=500)
    found: "SourceSearch | None" = None


class RightsOfManyIn(PickedSources):
    """The rights to give several sources. What is left out stays as each source has it."""

    right: Right
    right_words: int = Field(ge=1, le=10_000)
    attribution: str | None = Field(default=None, max_length=300)
    full_text_words: int | None = Field(default=None, ge=0, le=100_000)


class AccessOfManyIn(PickedSources):
    """How several sources are asked.

    What is left out stays as each source has it, and so do secrets.
    """

    any_certificate: bool | None = None
    pause_ms: int | None = Field(default=None, ge=0, le=60_000)
    patience_s: int | None = Field(default=None, ge=0, le=120)
    tries: int | None = Field(default=None, ge=1, le=5)


class ChangeManyIn(PickedSources):
    """Several sources and the change to make."""

    change: Literal["pause", "resume", "label", "unlabel", "remove"]
    label: str = Field("", max_length=60)


class SourceSearch(Schema):
    """What a list of sources is narrowed by."""

    search: str = Field(default="", max_length=200)
    health: Health | None = None
    label: str = Field(default="", max_length=60)


class ChangedOut(Out):
    """The number of changed sources."""

    changed: int


class HeaderIn(Schema):
    """A request header.

    An empty value keeps the stored one of this name.
    """

    name: str = Field(min_length=1, max_length=100)
    value: str = Field("", max_length=2000)


class AccessIn(Schema):
    """Access to a source: headers, basic credentials, certificate, pause and patience."""

    headers: list[HeaderIn] = Field(default_factory=list, max_length=10)
    user: str = Field("", max_length=200)
    password: str = Field("", max_length=500)
    any_certificate: bool = False
    pause_ms: int = Field(0, ge=0, le=60_000)
    patience_s: int = Field(
        0, ge=0, le=120, description="How long an answer may take, in seconds. 0 for as long as any other."
    )
    tries: int = Field(1, ge=1, le=5, description="How often it is asked in one reading, where a failure may pass.")


class AccessOut(Out):
    """The access of a source: names of headers without their values."""

    headers: list[str]
    user: str
    any_certificate: bool
    pause_ms: int
    patience_s: int
    tries: int


class ReadingOut(Out):
    """One reading of a source."""

    at: datetime
    milliseconds: int
    not_modified: bool
    found: int
    fresh: int
    error: str
    detail: str
    warnings: list[ReadWarningOut]
    status: int = Field(0, description="What the server answered with; 0 where nothing came.")
    size: int = Field(0, description="Bytes of the body.")


class SourceDetailOut(Out):
    """A source with its latest readings, and about how many bytes unchanged answers saved."""

    source: SourceOut
    readings: list[ReadingOut]
    saved_bytes: int
