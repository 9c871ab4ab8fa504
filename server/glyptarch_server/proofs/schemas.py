"""API schemas of proofs."""

from datetime import datetime

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.settings import RuleId
from glyptarch_core.trace import Stage, Verdict
from ninja import Schema
from pydantic import Field

from glyptarch_server.common.fields import Moment, RevisionNumber, RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.runs.schemas import NoteOut
from glyptarch_server.services.schemas import TextsCostOut

__all__ = [
    "HoleOut",
    "OverIn",
    "ProofIn",
    "ProofItemIn",
    "ProofOut",
    "ProofRowOut",
    "ProofStepIn",
    "ProofStepOut",
    "ProvedIn",
    "ReasonCountOut",
    "RuleEffectOut",
    "StageOut",
    "TriedOut",
    "TryRulesIn",
    "VersionOut",
    "WasOut",
]


class OverIn(Schema):
    """The items of a proof: those of the last days (of one source), chosen ones, or a sample."""

    days: int = Field(default=30, ge=1, le=365)
    source: str = Field(default="", max_length=60)
    items: list[RowNumber] = Field(default_factory=list, max_length=1000)
    sample: RowNumber | None = None


class ProvedIn(Schema):
    """Rules to prove, the items, and the revision to compare with, the latest by default."""

    document: CampaignDocument
    over: OverIn = OverIn()
    against: RevisionNumber | None = None


class ProofIn(ProvedIn):
    """A request for a proof.

    ``known`` is the token of the client's proof; the answer then has only the items that differ. ``bench`` identifies
    the client: its next request cancels this one. The client numbers its requests with ``turn``, since a busy server
    may begin them in another order.
    """

    known: str = Field(default="", max_length=32)
    bench: str = Field(default="", max_length=64)
    turn: int = Field(default=0, ge=0, le=1 << 53)


class ProofItemIn(ProvedIn):
    """One item of a proof, at the time the proof was made."""

    item: RowNumber
    as_of: Moment


class ProofStepIn(ProofItemIn):
    """One item of a proof at one step of Shape, named by its id."""

    step: RuleId


class ProofTextsIn(ProvedIn):
    """The items of a proof whose texts are wanted: one, or all that wait.

    With ``go`` the language services are asked, without it only the cost is said.
    """

    item: RowNumber | None = None
    as_of: Moment
    go: bool = False


class ProofTextsOut(Out):
    """What items of a proof wait for, and the task that asks for it."""

    items: int
    texts: int
    characters: int
    costs: list[TextsCostOut]
    task: int | None


class VersionOut(Out):
    """Title and body of an item on its way through the steps: the HTML is sanitised."""

    title: str
    html: str
    text: str


class ProofStepOut(Out):
    """An item as it comes to a step, and as it leaves it."""

    before: VersionOut
    after: VersionOut


class HoleOut(Out):
    """A variable that templates use and a source never fills.

    No source where it does not exist, or where its value ``ages`` in a text.
    """

    source: str
    variable: str
    parts: list[str]
    ages: bool


class TryRulesIn(Schema):
    """Rules to try, each over the newest items of its sources."""

    documents: list[CampaignDocument] = Field(min_length=1, max_length=12)


class TriedPostOut(Out):
    """A post that rules would make."""

    title: str
    excerpt: str
    words: int
    held: bool


class TriedReasonOut(Out):
    """A reason why items become no post, and their number. ``title`` is one of them."""

    verdict: Verdict
    reason: NoteOut | None
    count: int
    title: str


class TriedOut(Out):
    """What rules would make of items: how many posts, the first of them, and other reasons."""

    items: int
    posts: int
    held: int
    on_blog: int = Field(description="How many of the posts tell what a post of the blog tells already.")
    first: list[TriedPostOut]
    reasons: list[TriedReasonOut]


class WasOut(Out):
    """The decision of the compared rules, and the changes of a post that stays one."""

    verdict: Verdict
    left_at: Stage | None
    moved: bool
    reworded: bool


class ProofRowOut(Out):
    """An item in the list of a proof.

    ``was`` only where the edit changes something. ``categories`` are those of its post, in order; an item without a
    post has none.
    """

    id: int
    title: str
    source: str
    dated: datetime
    words: int
    verdict: Verdict
    left_at: Stage | None
    reason: NoteOut | None
    categories: list[str]
    was: WasOut | None


class ReasonCountOut(Out):
    """A reason, and the number of items that left a stage for it."""

    code: str
    rule: str
    count: int


class StageOut(Out):
    """A stage of the funnel."""

    stage: Stage
    entered: int
    left: list[ReasonCountOut]


class RuleEffectOut(Out):
    """The effect of one rule in a proof, now and by the saved rules."""

    against: int
    alone: int
    was_against: int


class ProofOut(Out):
    """A proof. Rules are named ``stage.id``.

    ``items`` has every item, or, where ``differs_from`` is the token of an earlier proof of the same items, only those
    whose rows differ.
    """

    token: str
    differs_from: str
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
