"""Proofs worded as the API gives them."""

from collections.abc import Collection

from glyptarch_core.draft import Draft
from glyptarch_core.text import count_words, plain_text, slugify
from glyptarch_core.trace import Decision, Verdict

from glyptarch_server.proofs.schemas import (
    HoleOut,
    ProofOut,
    ProofRowOut,
    ProvedIn,
    ReasonCountOut,
    RuleEffectOut,
    StageOut,
    TriedOut,
    TriedPostOut,
    TriedReasonOut,
    WasOut,
)
from glyptarch_server.proofs.tally import Over, Proof, Proved
from glyptarch_server.proofs.trying import Tried
from glyptarch_server.runs.answers import item_out, notes_out, reasons_out
from glyptarch_server.runs.schemas import DecisionOut, DraftOut, FieldOut, NoteOut
from glyptarch_server.runs.traces import brief_reason, trace_data

__all__ = ["over_of", "proof_out", "proved_out", "tried_out"]


def _draft(draft: Draft) -> DraftOut:
    return DraftOut(
        title=draft.title,
        excerpt=draft.excerpt,
        address=slugify(draft.address),
        description=draft.description,
        categories=list(draft.categories),
        tags=list(draft.tags),
        byline=draft.byline,
        date=draft.date,
        picture=draft.lead.url if draft.lead else "",
        kind=draft.kind,
        language=draft.language,
        comments=draft.comments,
        pinned=draft.pinned,
        visibility=draft.visibility,
        canonical=draft.canonical,
        fields=[
            FieldOut(name=field.name, label=field.label, type=field.type, value=field.value) for field in draft.fields
        ],
    )


def _was(proved: Proved) -> WasOut | None:
    if not proved.changed:
        return None
    return WasOut(
        verdict=proved.saved.verdict, left_at=proved.saved.left_at, moved=proved.moved, reworded=proved.reworded
    )


def _proof_row(proved: Proved, reason: NoteOut | None) -> ProofRowOut:
    decision, captured = proved.decision, proved.decision.captured
    return ProofRowOut(
        id=proved.item,
        title=captured.item.title,
        source=captured.source.title,
        dated=captured.dated,
        words=captured.features.words,
        verdict=decision.verdict,
        left_at=decision.left_at,
        reason=reason,
        categories=list(decision.draft.categories) if decision.draft else [],
        was=_was(proved),
    )


def over_of(payload: ProvedIn) -> Over:
    """Return the items that a proof is requested over."""
    over = payload.over
    return Over(days=over.days, source=over.source, items=tuple(over.items), sample=over.sample)


def proof_out(proof: Proof, *, blogs: Collection[int], earlier: Proof | None = None) -> ProofOut:
    """Return a proof in the form of the bench, for members of these blogs with an earlier proof."""
    differing = proof.rows_after(earlier) if earlier else None
    items = proof.items if differing is None else differing
    reasons = reasons_out([brief_reason(proved.decision) for proved in items], blogs)
    return ProofOut(
        token=proof.token,
        differs_from=earlier.token if earlier and differing is not None else "",
        as_of=proof.as_of,
        milliseconds=proof.milliseconds,
        days=proof.over.days,
        revision=proof.revision,
        undecided=proof.undecided,
        items=[_proof_row(proved, reason) for proved, reason in zip(items, reasons, strict=True)],
        stages=[
            StageOut(
                stage=count.stage,
                entered=count.entered,
                left=[ReasonCountOut(code=c, rule=r, count=n) for (c, r), n in count.left.most_common()],
            )
            for count in proof.stages
        ],
        rules={
            key: RuleEffectOut(against=effect.against, alone=effect.alone, was_against=effect.was_against)
            for key, effect in proof.rules.items()
        },
        idle=dict(proof.idle),
        holes=[
            HoleOut(source=hole.source, variable=hole.variable, parts=list(hole.parts), ages=hole.ages)
            for hole in proof.holes
        ],
    )


def proved_out(proved: Proved, *, blogs: Collection[int]) -> DecisionOut:
    """Return one item of a proof with its trace, for members of these blogs."""
    decision: Decision = proved.decision
    return DecisionOut(
        item=item_out(proved.item, decision.captured),
        verdict=decision.verdict,
        left_at=decision.left_at,
        trace=notes_out(trace_data(decision), blogs),
        draft=_draft(decision.draft) if decision.draft else None,
    )


_FIRST_POSTS = 3
_FIRST_REASONS = 3


def tried_out(tried: Tried, *, blogs: Collection[int]) -> TriedOut:
    """Return what rules would make of items, for members of these blogs."""
    posts, against = tried.posts, tried.reasons[:_FIRST_REASONS]
    reasons = reasons_out([brief_reason(decision) for decision, _ in against], blogs)
    return TriedOut(
        items=len(tried.decisions),
        posts=len(posts),
        held=tried.held,
        on_blog=tried.on_blog,
        first=[
            TriedPostOut(
                title=decision.draft.title,
                excerpt=decision.draft.excerpt,
                words=count_words(plain_text(decision.draft.body)),
                held=decision.verdict is Verdict.HOLD,
            )
            for decision in posts[:_FIRST_POSTS]
            if decision.draft is not None
        ],
        reasons=[
            TriedReasonOut(verdict=decision.verdict, reason=reason, count=number, title=decision.captured.item.title)
            for (decision, number), reason in zip(against, reasons, strict=True)
        ],
    )
