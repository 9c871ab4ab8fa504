"""Rows and proofs worded as the API gives them."""

from typing import TYPE_CHECKING, Any

from glyptarch_core.draft import Draft
from glyptarch_core.text import slugify
from glyptarch_core.trace import Decision as CoreDecision
from glyptarch_core.trace import Stage, Verdict

from glyptarch_server.items.queries import as_captured
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.queries import VERDICTS
from glyptarch_server.runs.schemas import (
    DecisionOut,
    DecisionRowOut,
    DraftOut,
    FieldOut,
    HoleOut,
    ItemOut,
    MediaOut,
    NoteOut,
    ProofIn,
    ProofOut,
    ProofRowOut,
    ReasonCountOut,
    RuleEffectOut,
    RunOut,
    RunSourceOut,
    StageOut,
    WasOut,
)
from glyptarch_server.runs.tally import Over, Proof, Proved
from glyptarch_server.runs.traces import reason_data, trace_data

if TYPE_CHECKING:
    from glyptarch_core.item import Captured

    from glyptarch_server.runs.models import Decision, Run

__all__ = ["decision_out", "decision_row", "over_of", "proof_out", "proved_out", "run_out"]


def _item(number: int, captured: "Captured") -> ItemOut:
    item, features = captured.item, captured.features
    return ItemOut(
        id=number,
        source=captured.source.title,
        title=item.title,
        link=item.link,
        identity=item.identity,
        summary=features.summary.text,
        text=features.text.text,
        authors=list(item.authors),
        categories=list(item.categories),
        published=item.published,
        updated=item.updated,
        captured_at=captured.captured_at,
        language=item.language,
        words=features.words,
        media=[MediaOut(url=one.url, kind=one.kind, origin=one.origin, alt=one.alt) for one in item.media],
        credit=item.credit.title if item.credit else "",
        facts={name: str(value) for name, value in item.facts.items()},
    )


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
        fields=[FieldOut(name=one.name, label=one.label, type=one.type, value=one.value) for one in draft.fields],
    )


def _note(data: dict[str, Any] | None) -> NoteOut | None:
    return NoteOut(**data) if data else None


def _was(proved: Proved) -> WasOut | None:
    if not proved.changed:
        return None
    return WasOut(
        verdict=proved.saved.verdict, left_at=proved.saved.left_at, moved=proved.moved, reworded=proved.reworded
    )


def _proof_row(proved: Proved) -> ProofRowOut:
    decision, captured = proved.decision, proved.decision.captured
    return ProofRowOut(
        id=proved.item,
        title=captured.item.title,
        source=captured.source.title,
        dated=captured.dated,
        words=captured.features.words,
        verdict=decision.verdict,
        left_at=decision.left_at,
        reason=_note(reason_data(decision)),
        was=_was(proved),
    )


def over_of(payload: ProofIn) -> Over:
    """Give what a proof is asked to be made over."""
    over = payload.over
    return Over(days=over.days, source=over.source, items=tuple(over.items), sample=over.sample)


def proof_out(proof: Proof) -> ProofOut:
    """Give a proof as the bench takes it."""
    return ProofOut(
        as_of=proof.as_of,
        milliseconds=proof.milliseconds,
        days=proof.over.days,
        revision=proof.revision,
        undecided=proof.undecided,
        items=[_proof_row(proved) for proved in proof.items],
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
        holes=[HoleOut(source=one.source, variable=one.variable, parts=list(one.parts)) for one in proof.holes],
    )


def proved_out(proved: Proved) -> DecisionOut:
    """Give one item of a proof with its trace."""
    decision: CoreDecision = proved.decision
    return DecisionOut(
        item=_item(proved.item, decision.captured),
        verdict=decision.verdict,
        left_at=decision.left_at,
        trace=[NoteOut(**note) for note in trace_data(decision)],
        draft=_draft(decision.draft) if decision.draft else None,
    )


def decision_out(row: "Decision") -> DecisionOut:
    """Give a decision on record with its trace."""
    return DecisionOut(
        item=_item(row.item_id, as_captured([row.item])[0]),
        verdict=Verdict(row.verdict),
        left_at=Stage(row.left_at) if row.left_at else None,
        trace=[NoteOut(**note) for note in row.trace],
        draft=None,
        post=row.post.pk if row.post else None,
        post_slug=row.post.slug if row.post else "",
        campaign=row.campaign.name,
        campaign_slug=row.campaign.slug,
        revision=row.run.revision.number,
        run=row.run.pk,
        at=row.at,
    )


def decision_row(row: "Decision") -> DecisionRowOut:
    """Give a decision for a list."""
    return DecisionRowOut(
        id=row.pk,
        title=row.item.title,
        source=row.item.source.title,
        dated=row.item.dated,
        words=row.item.words,
        verdict=Verdict(row.verdict),
        left_at=Stage(row.left_at) if row.left_at else None,
        reason=_note(row.reason),
        post=row.post.pk if row.post else None,
        post_slug=row.post.slug if row.post else "",
    )


def run_out(run: "Run", *, readings: Any = ()) -> RunOut:  # noqa: ANN401 - rows of the sources app
    """Give a run with its counts."""
    return RunOut(
        id=run.pk,
        campaign=run.campaign.name,
        campaign_slug=run.campaign.slug,
        revision=run.revision.number,
        state=RunState(run.state),
        stop_asked=run.stop_asked,
        asked_at=run.asked_at,
        begun_at=run.begun_at,
        ended_at=run.ended_at,
        sources=run.sources,
        sources_read=run.sources_read,
        fresh=run.fresh,
        to_decide=run.to_decide,
        verdicts={name: getattr(run, f"n_{name}") for name in VERDICTS},
        failure=run.failure,
        started_by=(run.started_by.first_name or run.started_by.username) if run.started_by else "",
        readings=[
            RunSourceOut(
                key=reading.source.key,
                title=reading.source.title,
                found=reading.found,
                fresh=reading.fresh,
                not_modified=reading.not_modified,
                error=reading.error,
                detail=reading.detail,
            )
            for reading in readings
        ],
    )
