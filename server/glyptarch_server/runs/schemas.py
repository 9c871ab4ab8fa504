"""What the API takes and gives about proofs, runs and decisions."""

from datetime import datetime
from typing import Any

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.draft import FieldType, Visibility
from glyptarch_core.trace import Stage, Verdict
from ninja import Schema
from pydantic import Field

from glyptarch_server.runs.lifecycle import RunState

__all__ = [
    "CampaignPageOut",
    "CampaignRowOut",
    "DecisionOut",
    "DecisionPageOut",
    "DecisionRowOut",
    "DraftOut",
    "FieldOut",
    "ForgetOut",
    "HoleOut",
    "ItemOut",
    "NoteOut",
    "OverIn",
    "ProofIn",
    "ProofItemIn",
    "ProofOut",
    "ProofRowOut",
    "ReasonCountOut",
    "RuleEffectOut",
    "RunOut",
    "RunPageOut",
    "RunSourceOut",
    "StageOut",
    "WasOut",
]


class NoteOut(Schema):
    """One line of a trace."""

    stage: Stage
    code: str
    rule: str
    against: bool
    data: dict[str, Any]


class MediaOut(Schema):
    """A picture, film or sound of an item."""

    url: str
    kind: str
    origin: str
    alt: str


class ItemOut(Schema):
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
    words: int
    media: list[MediaOut]
    credit: str
    facts: dict[str, str]


class FieldOut(Schema):
    """A custom field of a post."""

    name: str
    label: str
    type: FieldType
    value: str | float | bool


class DraftOut(Schema):
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


class ForgetOut(Schema):
    """How many items are, or would be, forgotten."""

    items: int


class OverIn(Schema):
    """What a proof is made over: the items of the last days (of one source), chosen items, or a sample."""

    days: int = Field(default=30, ge=1, le=365)
    source: str = Field(default="", max_length=60)
    items: list[int] = Field(default_factory=list, max_length=1000)
    sample: int | None = None


class ProofIn(Schema):
    """Rules to be proved, over what, and against which revision; the latest where none is named."""

    document: CampaignDocument
    over: OverIn = OverIn()
    against: int | None = Field(default=None, ge=1)


class ProofItemIn(ProofIn):
    """One item of a proof, at the time the proof was made."""

    item: int
    as_of: datetime


class HoleOut(Schema):
    """A variable that templates ask for and a source never fills; no source where the variable exists nowhere."""

    source: str
    variable: str
    parts: list[str]


class WasOut(Schema):
    """What the rules compared with would decide, and how a post that stays one has changed."""

    verdict: Verdict
    left_at: Stage | None
    moved: bool
    reworded: bool


class ProofRowOut(Schema):
    """An item in the list of a proof; ``was`` only where the edit changes something."""

    id: int
    title: str
    source: str
    dated: datetime
    words: int
    verdict: Verdict
    left_at: Stage | None
    reason: NoteOut | None
    was: WasOut | None


class ReasonCountOut(Schema):
    """How many items left a stage for one reason."""

    code: str
    rule: str
    count: int


class StageOut(Schema):
    """A stage of the funnel."""

    stage: Stage
    entered: int
    left: list[ReasonCountOut]


class RuleEffectOut(Schema):
    """What one rule does to the proof, and did by the saved rules."""

    against: int
    alone: int
    was_against: int


class ProofOut(Schema):
    """A whole proof. Rules are named ``stage.id``."""

    as_of: datetime
    milliseconds: int
    days: int
    revision: int
    undecided: int
    items: list[ProofRowOut]
    stages: list[StageOut]
    rules: dict[str, RuleEffectOut]
    idle: dict[str, int]
    holes: list[HoleOut]


class DecisionOut(Schema):
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


class DecisionRowOut(Schema):
    """A decision in the list of a run."""

    id: int
    title: str
    source: str
    dated: datetime
    words: int
    verdict: Verdict
    left_at: Stage | None
    reason: NoteOut | None
    post: int | None
    post_slug: str


class DecisionPageOut(Schema):
    """One page of decisions."""

    rows: list[DecisionRowOut]
    total: int


class RunSourceOut(Schema):
    """How reading one source went in a run."""

    key: str
    title: str
    found: int
    fresh: int
    not_modified: bool
    error: str
    detail: str


class RunOut(Schema):
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
    sources: int
    sources_read: int
    fresh: int
    to_decide: int
    verdicts: dict[str, int]
    failure: str
    started_by: str
    readings: list[RunSourceOut]


class RunPageOut(Schema):
    """One page of runs, and how many are under way."""

    rows: list[RunOut]
    total: int
    under_way: int


class CampaignRowOut(Schema):
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


class CampaignPageOut(Schema):
    """One page of campaigns."""

    rows: list[CampaignRowOut]
    total: int
