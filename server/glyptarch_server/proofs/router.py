"""The API of proofs."""

from django.http import HttpRequest, HttpResponse
from glyptarch_core.errors import UnwantedError
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for, blog_numbers_of
from glyptarch_server.campaigns.queries import campaign_of
from glyptarch_server.common.problems import Conflict
from glyptarch_server.proofs.answers import over_of, proof_out, proved_out, tried_out
from glyptarch_server.proofs.prove import around_step_of, make_proof, moment_of_proof, proof_named, prove_one
from glyptarch_server.proofs.schemas import (
    ProofIn,
    ProofItemIn,
    ProofOut,
    ProofStepIn,
    ProofStepOut,
    ProofTextsIn,
    ProofTextsOut,
    TriedOut,
    TryRulesIn,
    VersionOut,
)
from glyptarch_server.proofs.tally import Proved
from glyptarch_server.proofs.trying import try_rules
from glyptarch_server.proofs.turns import wanted_by
from glyptarch_server.runs.schemas import DecisionOut
from glyptarch_server.services.actions import begin_asking, note_asks
from glyptarch_server.services.queries import costs_of
from glyptarch_server.services.schemas import TextsCostOut

__all__ = ["router"]

router = Router(tags=["proofs"])


@router.post("/blogs/{blog}/campaigns/{slug}/proof", response=ProofOut, operation_id="makeProof")
def answer_proof(request: HttpRequest, blog: str, slug: str, payload: ProofIn) -> HttpResponse:
    """Decide captured items by these rules, and write nothing."""
    campaign = campaign_of(blog_for(request.user, blog), slug)
    over, against = over_of(payload), payload.against
    now = moment_of_proof(wiring.clock()())
    is_wanted = wanted_by(f"{request.user.pk} {payload.bench}" if payload.bench else "", payload.turn)
    try:
        proof = make_proof(campaign, payload.document, now=now, over=over, against=against, is_wanted=is_wanted)
    except UnwantedError as error:
        raise Conflict("A newer edit asks for another proof.") from error
    earlier = proof_named(campaign, payload.known) if payload.known else None
    out = proof_out(proof, blogs=blog_numbers_of(request.user), earlier=earlier)
    # The model serialises itself, because ninja would validate a thousand rows again in Python.
    return HttpResponse(out.model_dump_json(), content_type="application/json; charset=utf-8")


@router.post("/blogs/{blog}/campaigns/{slug}/proof/item", response=DecisionOut, operation_id="proveItem")
def proof_item(request: HttpRequest, blog: str, slug: str, payload: ProofItemIn) -> DecisionOut:
    """Return one item of a proof with its trace."""
    return proved_out(_proved(request, blog, slug, payload), blogs=blog_numbers_of(request.user))


@router.post("/blogs/{blog}/campaigns/{slug}/proof/step", response=ProofStepOut, operation_id="proveStep")
def proof_step(request: HttpRequest, blog: str, slug: str, payload: ProofStepIn) -> ProofStepOut:
    """Return one item of a proof before and after a step of Shape."""
    proved = _proved(request, blog, slug, payload)
    before, after = around_step_of(blog_for(request.user, blog), payload.document, proved, payload.step)
    return ProofStepOut(before=VersionOut.from_orm(before), after=VersionOut.from_orm(after))


@router.post("/blogs/{blog}/campaigns/{slug}/proof/texts", response=ProofTextsOut, operation_id="askForTexts")
def ask_for_texts(request: HttpRequest, blog: str, slug: str, payload: ProofTextsIn) -> ProofTextsOut:
    """Return what the texts cost that items wait for, or ask the language services for them."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    campaign = campaign_of(owned, slug)
    over, against = over_of(payload), payload.against
    proof = make_proof(campaign, payload.document, now=payload.as_of, over=over, against=against)
    waiting = [
        proved.decision for proved in proof.items if proved.decision.asks and payload.item in {None, proved.item}
    ]
    asks = list({ask.key: ask for decision in waiting for ask in decision.asks}.values())
    task = None
    if payload.go and asks:
        now = wiring.clock()()
        note_asks(owned.pk, campaign.pk, waiting, now=now)
        task = begin_asking(owned.pk, now=now, by_id=request.user.pk).pk
    return ProofTextsOut(
        items=len(waiting),
        texts=len(asks),
        characters=sum(len(ask.text) for ask in asks),
        costs=[TextsCostOut.from_orm(cost) for cost in costs_of(owned.pk, asks)],
        task=task,
    )


@router.post("/blogs/{blog}/tried-rules", response=list[TriedOut], operation_id="tryRules")
def answer_tried(request: HttpRequest, blog: str, payload: TryRulesIn) -> list[TriedOut]:
    """Decide the newest items of sources by several rules, before there is a campaign."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    blogs = blog_numbers_of(request.user)
    now = moment_of_proof(wiring.clock()())
    return [tried_out(tried, blogs=blogs) for tried in try_rules(owned, payload.documents, now=now)]


def _proved(request: HttpRequest, blog: str, slug: str, payload: ProofItemIn) -> Proved:
    return prove_one(
        campaign_of(blog_for(request.user, blog), slug),
        payload.document,
        payload.item,
        now=payload.as_of,
        over=over_of(payload),
        against=payload.against,
    )
