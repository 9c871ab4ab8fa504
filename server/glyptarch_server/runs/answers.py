"""Rows of runs and decisions worded as the API gives them."""

from collections.abc import Collection, Mapping, Sequence
from typing import TYPE_CHECKING, Any

from glyptarch_core.trace import Stage, Verdict

from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.runs.lifecycle import RunState
from glyptarch_server.runs.queries import VERDICTS
from glyptarch_server.runs.schemas import (
    DecisionOut,
    DecisionRowOut,
    ItemOut,
    MediaOut,
    NoteOut,
    RunOut,
    RunSourceOut,
)
from glyptarch_server.runs.visibility import readable_notes

if TYPE_CHECKING:
    from glyptarch_core.item import Captured

    from glyptarch_server.runs.models import Decision, Run

__all__ = ["decision_out", "decision_rows", "item_out", "notes_out", "reasons_out", "run_out"]


def item_out(number: int, captured: "Captured") -> ItemOut:
    """Return a captured item with all its fields."""
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
        language=captured.language,
        language_found=not item.language and bool(captured.language),
        words=features.words,
        media=[
            MediaOut(url=medium.url, kind=medium.kind, origin=medium.origin, alt=medium.alt) for medium in item.media
        ],
        credit=item.credit.title if item.credit else "",
        facts={name: str(value) for name, value in item.facts.items()},
    )


def notes_out(notes: Sequence[Mapping[str, Any]], blogs: Collection[int]) -> list[NoteOut]:
    """Return notes as members of these blogs may read them."""
    return [NoteOut(**note) for note in readable_notes(notes, blogs)]


def reasons_out(reasons: Sequence[Mapping[str, Any] | None], blogs: Collection[int]) -> list[NoteOut | None]:
    """Return the reasons of decisions in their order, as :func:`notes_out` does."""
    shown_reasons = iter(notes_out([reason for reason in reasons if reason], blogs))
    return [next(shown_reasons) if reason else None for reason in reasons]


def _address(row: "Decision") -> str:
    """Return the last part of the address of a decision's post.

    Empty where readers do not find it.
    """
    return row.post.slug if row.post and row.post.state == PostState.PUBLISHED.value else ""


def decision_out(row: "Decision", *, blogs: Collection[int]) -> DecisionOut:
    """Return a stored decision with its trace, as members of these blogs may read it."""
    return DecisionOut(
        item=item_out(row.item_id, as_captured([row.item])[0]),
        verdict=Verdict(row.verdict),
        left_at=Stage(row.left_at) if row.left_at else None,
        trace=notes_out(row.trace, blogs),
        draft=None,
        post=row.post.pk if row.post else None,
        post_slug=_address(row),
        campaign=row.campaign.name,
        campaign_slug=row.campaign.slug,
        revision=row.run.revision.number,
        run=row.run.pk,
        at=row.at,
    )


def decision_rows(rows: "Sequence[Decision]", *, blogs: Collection[int]) -> list[DecisionRowOut]:
    """Return decisions for a list."""
    reasons = reasons_out([row.reason for row in rows], blogs)
    return [_decision_row(row, reason) for row, reason in zip(rows, reasons, strict=True)]


def _decision_row(row: "Decision", reason: NoteOut | None) -> DecisionRowOut:
    return DecisionRowOut(
        id=row.pk,
        item=row.item_id,
        campaign=row.campaign.slug,
        title=row.item.title,
        source=row.item.source.title,
        dated=row.item.dated,
        words=row.item.words,
        verdict=Verdict(row.verdict),
        left_at=Stage(row.left_at) if row.left_at else None,
        reason=reason,
        post=row.post.pk if row.post else None,
        post_slug=_address(row),
    )


def run_out(run: "Run", *, readings: Any = ()) -> RunOut:  # noqa: ANN401 - rows of the sources app
    """Return a run with its counts and readings."""
    return RunOut(
        id=run.pk,
        campaign=run.campaign.name,
        campaign_slug=run.campaign.slug,
        revision=run.revision.number,
        state=RunState(run.state),
        stop_asked=run.task.stop_asked if run.task else False,
        asked_at=run.asked_at,
        begun_at=run.begun_at,
        ended_at=run.ended_at,
        taken_back_at=run.taken_back_at,
        sources=run.sources,
        sources_read=run.task.done if run.task and run.state == RunState.GATHERING.value else run.sources_read,
        sources_left=run.sources_left,
        fresh=run.fresh,
        to_decide=run.to_decide,
        texts_waiting=run.texts_waiting,
        verdicts=dict.fromkeys(VERDICTS, 0) | run.verdicts,
        failure=run.failure,
        scheduled=run.scheduled,
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
