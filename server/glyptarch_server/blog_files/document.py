"""The file that holds all rules and sources of a blog, as YAML."""

from enum import StrEnum
from typing import Annotated, Any

from glyptarch_core.errors import Fault
from glyptarch_core.item import Right
from glyptarch_core.settings import LibraryKey
from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from glyptarch_server.common.problems import Invalid
from glyptarch_server.common.yaml_text import YamlFault, load_yaml, write_yaml

__all__ = [
    "FORMAT",
    "AccessPart",
    "AsksPart",
    "BlogFile",
    "CampaignPart",
    "DefaultsPart",
    "FilePart",
    "FullTextPart",
    "ListPart",
    "PartKind",
    "ReaderPart",
    "SourcePart",
    "TablePart",
    "parts_in_order",
    "read_file",
    "write_file",
]

FORMAT = 1
LONGEST = 5_000_000
"""The most characters that a file may have."""
_MOST_NODES = 1_000_000
_MOST_PARTS = 10_000
_MOST_FAULTS = 30
_HEAD = """\
# All rules and sources of a Glyptarch blog. No key, password or other secret is in it.
# The rules of a campaign have a schema of their own: GET /api/campaign-schema (JSON Schema 2020-12).
"""

_Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


class PartKind(StrEnum):
    """The kinds of parts, in the order in which they are brought in.

    Later ones name earlier ones.
    """

    WORD_LIST = "word_list"
    TERM_TABLE = "term_table"
    READER = "reader"
    SOURCE = "source"
    CAMPAIGN = "campaign"
    DEFAULTS = "defaults"


class FilePart(BaseModel):
    """A part of the file, named by its key."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: LibraryKey
    name: _Name


class ListPart(FilePart):
    """A word list."""

    words: tuple[str, ...] = Field(default=(), max_length=20_000)


class TablePart(FilePart):
    """A table of terms: what, by, and link of each line."""

    lines: tuple[tuple[str, str, str], ...] = Field(default=(), max_length=20_000)


class ReaderPart(FilePart):
    """A page reader, with its document."""

    mends_itself: bool = False
    document: dict[str, Any]


class FullTextPart(BaseModel):
    """When and from where items get the texts of their pages."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    words: int = Field(default=0, ge=0, le=100_000)
    reader: str = Field(default="", max_length=60)
    selector: str = Field(default="", max_length=500)


class AccessPart(BaseModel):
    """How a source is asked, without its secrets."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    any_certificate: bool = False
    pause_ms: int = Field(default=0, ge=0, le=60_000)
    patience_s: int = Field(default=0, ge=0, le=120)
    tries: int = Field(default=1, ge=1, le=5)


class AsksPart(BaseModel):
    """What a source asks a platform for, with the connection that the blog has under this key."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    platform: str = Field(max_length=20)
    connection: str = Field(default="", max_length=60)
    parameters: dict[str, Any] = {}
    search_words: tuple[dict[str, Any], ...] = Field(default=(), max_length=100)


class SourcePart(FilePart):
    """A source: a feed, a site with its page reader, or what is asked of a platform."""

    address: str = Field(default="", max_length=2000)
    reader: str = Field(default="", max_length=60)
    asks: AsksPart | None = None
    right: Right = Right.EXCERPT
    right_said: bool = False
    right_words: int = Field(default=100, ge=1, le=10_000)
    attribution: str = Field(default="", max_length=300)
    keyword: str = Field(default="", max_length=80)
    labels: tuple[Annotated[str, StringConstraints(min_length=1, max_length=60)], ...] = Field(
        default=(), max_length=50
    )
    paused: bool = False
    reads_pages: bool = False
    full_text: FullTextPart = FullTextPart()
    rendered: bool = False
    rendered_hosts: tuple[str, ...] = Field(default=(), max_length=10)
    access: AccessPart = AccessPart()


class CampaignPart(BaseModel):
    """A campaign: its rules and its schedule."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: Annotated[str, StringConstraints(pattern=r"^[\w-]{1,100}$")]
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    schedule: dict[str, Any] = {}
    document: dict[str, Any]


class DefaultsPart(BaseModel):
    """The rules of new campaigns."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    document: dict[str, Any]

    @property
    def key(self) -> str:
        """There is one of them."""
        return "defaults"

    @property
    def name(self) -> str:
        """What it is called."""
        return "Rules of new campaigns"


class BlogFile(BaseModel):
    """All parts of a blog that rules are made of. ``blog`` says where they come from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: int = Field(default=FORMAT, ge=1, le=FORMAT)
    blog: str = Field(default="", max_length=200)
    word_lists: tuple[ListPart, ...] = Field(default=(), max_length=_MOST_PARTS)
    term_tables: tuple[TablePart, ...] = Field(default=(), max_length=_MOST_PARTS)
    readers: tuple[ReaderPart, ...] = Field(default=(), max_length=_MOST_PARTS)
    sources: tuple[SourcePart, ...] = Field(default=(), max_length=_MOST_PARTS)
    campaigns: tuple[CampaignPart, ...] = Field(default=(), max_length=_MOST_PARTS)
    defaults: DefaultsPart | None = None


Part = FilePart | CampaignPart | DefaultsPart


def parts_in_order(file: BlogFile) -> list[tuple[PartKind, Part]]:
    """Return the parts of a file with their kinds, in the order in which they are brought in."""
    return [
        *((PartKind.WORD_LIST, part) for part in file.word_lists),
        *((PartKind.TERM_TABLE, part) for part in file.term_tables),
        *((PartKind.READER, part) for part in file.readers),
        *((PartKind.SOURCE, part) for part in file.sources),
        *((PartKind.CAMPAIGN, part) for part in file.campaigns),
        *(((PartKind.DEFAULTS, file.defaults),) if file.defaults else ()),
    ]


def write_file(file: BlogFile) -> str:
    """Write a file. Settings that have their usual value are left out of sources."""
    data = file.model_dump(mode="json")
    data["sources"] = [
        {"key": part.key, "name": part.name, **part.model_dump(mode="json", exclude_defaults=True)}
        for part in file.sources
    ]
    return _HEAD + write_yaml({name: value for name, value in data.items() if value not in (None, [], ())})


def read_file(text: str) -> BlogFile:
    """Parse a file. Raises Invalid with each fault, or with the line of a YAML error."""
    try:
        data = load_yaml(text, longest=LONGEST, most_nodes=_MOST_NODES)
    except YamlFault as fault:
        raise Invalid(f"This file cannot be read: {fault}.") from fault
    if not isinstance(data, dict) or not data:
        raise Invalid("This is no file of a blog. It begins with “format:”, then names lists, sources and campaigns.")
    try:
        file = BlogFile.model_validate(data)
    except ValidationError as error:
        faults = [
            Fault(path=".".join(map(str, fault["loc"])), message=fault["msg"].removeprefix("Value error, "))
            for fault in error.errors()[:_MOST_FAULTS]
        ]
        raise Invalid(f"The file does not hold at {faults[0].path}: {faults[0].message}.", faults=faults) from error
    seen: set[tuple[PartKind, str]] = set()
    for kind, part in parts_in_order(file):
        if (kind, part.key) in seen:
            raise Invalid(f"The file has two parts “{part.key}” of one kind ({kind.value}). Take one out.")
        seen.add((kind, part.key))
    return file
