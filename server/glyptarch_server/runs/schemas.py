"""API schemas of runs and decisions."""

from datetime import datetime
from typing import Any

from glyptarch_core.checkup import Checked, State
from glyptarch_core.draft import FieldType, Visibility
from glyptarch_core.schedule import Schedule
from glyptarch_core.trace import Stage, Verdict
from ninja import Schema
from pydantic import Field

from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.runs.lifecycle import RunState

__all__ = [
    "AgainOut",
    "CampaignPageOut",
    "CampaignRowOut",
    "CorrectionIn",
    "CorrectionOut",
    "DecisionOut",
    "DecisionPageOut",
    "DecisionRowOut",
    "DraftOut",
    "FieldOut",
    "FindingOut",
    "ForgetOut",
    "GoesWithItOut",
    "ItemOut",
    "MediaOut",
    "NoteOut",
    "RunOut",
    "RunPageOut",
    "RunSourceOut",
    "SpareIn",
]


class NoteOut(Out):
    """One line of a trace."""

    stage: Stage
    code: str
    rule: str
    rule_title: str = ""
    against: bool
    data: dict[str, Any]


class MediaOut(Out):
    """A picture, film or sound of an item."""

    url: str
    kind: str
    origin: str
    alt: str


class ItemOut(Out):
    """The fields of a captured item."""

    id: int
    source: str
    title: str
    link: str
    identity: str
    summary: str
    text: str
    authors: list[str]
    categories: list[str]
    published: datetime | None
    updated: datetime | None
    captured_at: datetime
    language: str
    # Whether it was found by the text, since the source states none.
    language_found: bool
    words: int
    media: list[MediaOut]
    credit: str
    facts: dict[str, str]


class FieldOut(Out):
    """A custom field of a post."""

    name: str
    label: str
    type: FieldType
    value: str | float | bool


class DraftOut(Out):
    """A post as the rules make it."""

    title: str
    excerpt: str
    address: str
    description: str
    categories: list[str]
    tags: list[str]
    byline: str
    date: datetime
    picture: str
    kind: str
    language: str
    comments: bool
    pinned: bool
    visibility: Visibility
    canonical: str
    fields: list[FieldOut]


class ForgetOut(Out):
    """The number of forgotten items."""

    items: int


class ChosenItemsIn(Schema):
    """Items of the blog, by number."""

    items: list[RowNumber] = Field(min_length=1, max_length=100)


class LetThroughOut(Out):
    """The posts that were made, and the titles of the items without one by reason.

    ``change`` can be taken back.
    """

    posts: list[int]
    states: dict[str, int]
    left: dict[str, list[str]]
    change: int | None


class GoesWithItOut(Out):
    """The rows removed with a campaign."""

    posts: int
    on_the_blog: int
    comments: int
    decisions: int
    runs: int
    revisions: int


class DecisionOut(Out):
    """A decision with its trace, of a proof or of a run."""

    item: ItemOut
    verdict: Verdict
    left_at: Stage | None
    trace: list[NoteOut]
    draft: DraftOut | None
    post: int | None = None
    post_slug: str = ""
    campaign: str = ""
    campaign_slug: str = ""
    revision: int | None = None
    run: int | None = None
    at: datetime | None = None


class DecisionRowOut(Out):
    """A decision in the list of a run."""

    id: int
    item: int
    campaign: str = Field(description="The slug of the campaign that decided.")
    title: str
    source: str
    dated: datetime
    words: int
    verdict: Verdict
    left_at: Stage | None
    reason: NoteOut | None
    post: int | None
    post_slug: str = Field(description="The last part of the post's address; empty where readers do not find it.")


class DecisionPageOut(Out):
    """One page of decisions."""

    rows: list[DecisionRowOut]
    total: int


class RunSourceOut(Out):
    """The reading of one source in a run."""

    key: str
    title: str
    found: int
    fresh: int
    not_modified: bool
    error: str
    detail: str


class RunOut(Out):
    """A run with its counts."""

    id: int
    campaign: str
    campaign_slug: str
    revision: int
    state: RunState
    stop_asked: bool
    asked_at: datetime
    begun_at: datetime | None
    ended_at: datetime | None
    taken_back_at: datetime | None
    sources: int
    sources_read: int
    sources_left: int
    fresh: int
    to_decide: int
    texts_waiting: int
    verdicts: dict[str, int]
    failure: str
    started_by: str
    scheduled: bool
    readings: list[RunSourceOut]


class SpareIn(Schema):
    """Whether posts stay that people have edited or commented."""

    spare: bool = True


class AgainOut(Out):
    """The change that puts the posts into the bin, and the run that begins after it."""

    change: int
    run: int


class RunPageOut(Out):
    """One page of runs, and how many are under way."""

    rows: list[RunOut]
    total: int
    under_way: int


class FindingOut(Out):
    """The result of one step between the address and the blog."""

    step: Checked
    state: State
    code: str
    data: dict[str, Any]


class CampaignRowOut(Out):
    """A campaign in the list."""

    slug: str
    name: str
    revision: int
    sources: int
    mode: str
    category: str
    published: int
    held: int
    days: list[int]
    last_run: RunOut | None
    schedule: Schedule
    paused: bool
    next_run_at: datetime | None
    time_zone: str


class CampaignPageOut(Out):
    """One page of campaigns."""

    rows: list[CampaignRowOut]
    total: int


class CorrectionOut(Out):
    """What a source has corrected of a published post: the differing values, before and after.

    With ``refused`` the rules of the post would refuse its item now.
    """

    at: datetime
    before: dict[str, Any]
    after: dict[str, Any]
    refused: bool


class CorrectionIn(Schema):
    """Whether a correction is taken over, or the post is left as it is."""

    take: bool
