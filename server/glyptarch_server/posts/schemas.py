"""API schemas of posts."""

from datetime import date, datetime
from typing import Annotated, Any, Literal, TypeAlias

from glyptarch_core.draft import FieldType, Visibility
from glyptarch_core.item import Right
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.fields import Moment, RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.posts.lifecycle import ChangeState, PostState

__all__ = [
    "AlikeOut",
    "EditIn",
    "FilterIn",
    "HistoryOut",
    "MoveIn",
    "PostChangeIn",
    "PostChangeOut",
    "PostOut",
    "PostPageOut",
    "ReadLineOut",
    "ReadPostOut",
    "ReadsOfDayOut",
    "ReadsOut",
    "ReasonOut",
    "RestoreIn",
    "SelectionIn",
    "SuggestedOut",
    "TakedownIn",
    "TakedownOut",
    "TakedownPageOut",
    "TouchedOut",
    "ValuesIn",
    "ValuesOut",
    "ViewIn",
    "ViewOut",
    "WithdrawnOut",
    "WordsOut",
]

# A field named ``date`` hides the type in its class.
Day: TypeAlias = Annotated[date, Field(ge=date(1970, 1, 1), le=date(2999, 12, 31))]


_Name = Annotated[str, Field(max_length=80)]


class MoveIn(Schema):
    """The wanted state of a post, and the state that the person knows.

    ``date`` is the time of a scheduled post, ``why`` a stored reason.
    """

    state: Literal[
        PostState.PUBLISHED, PostState.SCHEDULED, PostState.HELD, PostState.DRAFT, PostState.REFUSED, PostState.BINNED
    ]
    seen: PostState | None = None
    date: Moment | None = None
    why: Annotated[str, Field(max_length=500)] = ""


class FilterIn(Schema):
    """A filter of posts, as in the list of posts."""

    state: PostState | None = None
    campaign: Annotated[str, Field(max_length=200)] = ""
    source: Annotated[str, Field(max_length=200)] = ""
    category: _Name = ""
    tag: _Name = ""
    byline: _Name = ""
    visibility: Visibility | None = None
    kind: Annotated[str, Field(max_length=40)] = ""
    edited: bool | None = None
    corrected: bool | None = None
    since: Day | None = None
    until: Day | None = None
    longest: Annotated[int, Field(ge=0, le=1_000_000)] | None = None
    language: Annotated[str, Field(max_length=35)] = ""
    editions: bool | None = None
    run: RowNumber | None = None
    reason: Annotated[str, Field(max_length=60)] = ""
    search: Annotated[str, Field(max_length=200)] = ""


class SelectionIn(Schema):
    """Posts by their numbers, or all that a filter finds."""

    ids: Annotated[list[RowNumber], Field(max_length=1000)] | None = None
    filter: FilterIn | None = None


class PostChangeIn(SelectionIn):
    """A change of posts with its values.

    With ``seen`` only posts in that state are moved.
    """

    action: Literal["moved", "category", "tags", "byline", "binned", "restored"]
    to: Literal["published", "scheduled", "held", "draft", "refused"] | None = None
    seen: PostState | None = None
    why: Annotated[str, Field(max_length=500)] = ""
    date: Moment | None = None
    category: _Name = ""
    byline: _Name = ""
    add: Annotated[list[_Name], Field(max_length=50)] = []
    remove: Annotated[list[_Name], Field(max_length=50)] = []
    marker: bool = True
    spare: bool = False
    alone: bool = Field(default=False, description="Whether their editions stay where they are.")


class PostChangeOut(Out):
    """A change of posts: person, number, progress, and whether it was taken back."""

    id: int
    action: str
    to: str = Field(description="The state that posts were moved to; empty where they were not.")
    subject: str
    by: str
    at: datetime
    state: ChangeState
    posts: int
    done: int
    changed: int
    taken_back: bool
    taken_back_by: int | None


class TouchedOut(Out):
    """Counts of posts before they are removed."""

    posts: int
    states: dict[str, int]
    edited: int
    commented: int


class FieldIn(Schema):
    """A field of the blog's own."""

    name: Annotated[str, Field(max_length=60)]
    label: Annotated[str, Field(max_length=200)]
    type: FieldType
    value: Annotated[str, Field(max_length=20_000)] | float | bool


class ValuesIn(Schema):
    """Values of a post from a person.

    Omitted ones stay.
    """

    title: Annotated[str, Field(max_length=1000)] | None = None
    slug: Annotated[str, Field(max_length=100)] | None = None
    excerpt: Annotated[str, Field(max_length=20_000)] | None = None
    body: Annotated[str, Field(max_length=2_000_000)] | None = None
    description: Annotated[str, Field(max_length=2000)] | None = None
    lead_url: Annotated[str, Field(max_length=4000)] | None = None
    lead_alt: Annotated[str, Field(max_length=1000)] | None = None
    fields: Annotated[list[FieldIn], Field(max_length=50)] | None = None
    categories: Annotated[list[_Name], Field(max_length=50)] | None = None
    tags: Annotated[list[_Name], Field(max_length=50)] | None = None
    byline: _Name | None = None
    kind: Annotated[str, Field(min_length=1, max_length=40)] | None = None
    pinned: bool | None = None
    comments: bool | None = None
    visibility: Visibility | None = None
    pass_phrase: Annotated[str, Field(max_length=80)] | None = None
    language: Annotated[str, Field(max_length=35)] | None = None
    canonical: Annotated[str, Field(max_length=4000)] | None = None
    date: Moment | None = None


class EditIn(ValuesIn):
    """New values of a post, and the version that the person began from."""

    version: int


class ValuesOut(Out):
    """All that can be edited in a post."""

    version: int
    edited: list[str]
    title: str
    slug: str
    excerpt: str
    body: str
    description: str
    lead_url: str
    lead_alt: str
    fields: list[FieldIn]
    categories: list[str]
    tags: list[str]
    byline: str
    kind: str
    pinned: bool
    comments: bool
    visibility: Visibility
    pass_phrase: str
    language: str
    canonical: str
    date: datetime


class HistoryOut(Out):
    """One change of a post."""

    version: int
    action: str
    by: str
    at: datetime
    before: dict[str, Any]
    after: dict[str, Any]
    kept: bool
    why: str


class RestoreIn(Schema):
    """The version that the person sees now."""

    seen: int


class AlikeOut(Out):
    """A post that shares text with another: how much (0 to 1), and the longest passages in both."""

    id: int
    title: str
    state: PostState
    source: str
    date: datetime
    likeness: float
    passages: list[str]


class SameEventOut(Out):
    """A post that may tell the same event in other words.

    How similar it is (0 to 1), and the rare words in both.
    """

    id: int
    title: str
    state: PostState
    source: str
    date: datetime
    likeness: float
    words: list[str]


class ReasonOut(Out):
    """Why posts are held, and how many."""

    code: str
    posts: int


class TakedownIn(Schema):
    """The person who requested a takedown, and the reason."""

    asked_by: Annotated[str, Field(min_length=1, max_length=300)]
    reason: Annotated[str, Field(max_length=2000)] = ""


class WithdrawnOut(Out):
    """A withdrawn post as it was."""

    title: str
    address: str
    link: str
    date: datetime


class TakedownOut(Out):
    """The record of a takedown."""

    id: int
    subject: str
    whole_source: bool
    asked_by: str
    reason: str
    withdrawn: list[WithdrawnOut]
    by: str
    at: datetime
    lifted_at: datetime | None


class TakedownPageOut(Out):
    """One page of takedowns."""

    rows: list[TakedownOut]
    total: int


class ViewIn(Schema):
    """A filter of the list of posts, under a name."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    query: Annotated[str, Field(max_length=1000)]


class ViewOut(ViewIn):
    """A named filter."""

    id: int


class PostOut(Out):
    """A post in the list of the desk."""

    id: int
    state: PostState
    title: str
    excerpt: str
    slug: str
    picture: str
    category: str
    categories: list[str]
    tags: list[str]
    kind: str
    pinned: bool
    visibility: Visibility
    byline: str
    campaign: str
    campaign_slug: str
    revision: int | None
    source: str
    right: Right | None
    right_words: int
    link: str
    date: datetime
    created_at: datetime
    moves: list[PostState]
    version: int
    edited: list[str]
    words: int
    comments: int
    reads: int = Field(description="How often it was read in the last 30 days.")
    binned_at: datetime | None
    marker: bool
    language: str
    edition_of: int | None = Field(description="The post of which this one is an edition in another language.")
    editions: list[str] = Field(description="The languages of its editions.")


class PostPageOut(Out):
    """One page of posts, with how many there are in each state."""

    rows: list[PostOut]
    total: int
    states: dict[str, int] | None


class ReadsOfDayOut(Out):
    """The reads of a day (UTC)."""

    day: date
    reads: int


class ReadPostOut(Out):
    """A post with its reads."""

    id: int
    title: str
    source: str
    reads: int


class ReadLineOut(Out):
    """A source or campaign, with how many of its posts were read, and how often."""

    key: str
    name: str
    archived: bool = Field(description="Whether it has no screen any more.")
    posts: int
    reads: int


class ReadsOut(Out):
    """How often the posts of a blog were read in the last days."""

    total: int
    days: list[ReadsOfDayOut]
    posts: list[ReadPostOut]
    sources: list[ReadLineOut]
    campaigns: list[ReadLineOut]


class WordsOut(Out):
    """A search line with its number of items and of posts."""

    text: str
    brought: int
    kept: int


class SuggestedOut(Out):
    """Suggested words, with the number of kept items and of others that have them."""

    text: str
    kept: int
    elsewhere: int
