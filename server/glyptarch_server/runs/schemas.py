"""What the API takes and gives about proofs, runs and decisions."""

from datetime import datetime
from typing import Any

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.trace import Stage, Verdict
from ninja import Schema

from glyptarch_server.runs.lifecycle import RunState

__all__ = [
    "CampaignPageOut",
    "CampaignRowOut",
    "DecisionOut",
    "DecisionPageOut",
    "DecisionRowOut",
    "DraftOut",
    "ForgetOut",
    "ItemOut",
    "NoteOut",
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


class DraftOut(Schema):
    """A post as the rules make it."""

    title: str
    excerpt: str
    category: str
    tags: list[str]
    byline: str
    date: datetime
    picture: str


class ForgetOut(Schema):
    """How many items are, or would be, forgotten."""

    items: int


class ProofIn(Schema):
    """Rules to be proved."""

    document: CampaignDocument


class ProofItemIn(Schema):
    """One item of a proof, at the time the proof was made."""

    document: CampaignDocument
    item: int
    as_of: datetime


class WasOut(Schema):
    """What the saved rules would decide."""

    verdict: Verdict
    left_at: Stage | None


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
