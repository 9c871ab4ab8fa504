"""The API of previews: a post as the blog would show it."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from django.template.loader import render_to_string
from glyptarch_core.appearance import READY, Look, Part, own_css
from glyptarch_core.draft import Visibility
from glyptarch_core.findable import Findable, Lack, lacks
from glyptarch_core.item import MediaKind
from glyptarch_core.pictures import media_of
from ninja import Router, Schema

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import blog_for
from glyptarch_server.blogs.roles import Role
from glyptarch_server.campaigns.queries import campaign_of
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.front.around import blog_context, home_in, in_language_of, words_of
from glyptarch_server.front.contents import with_contents
from glyptarch_server.front.lists import front_context
from glyptarch_server.front.offering import Shelf, keys_in
from glyptarch_server.front.own_words import usual_words
from glyptarch_server.front.pages import (
    PostView,
    SoundView,
    addresses_of,
    sound_of,
    sounds_in,
    view_of_draft,
    view_of_post,
)
from glyptarch_server.front.players import PlayerView, player_of, with_players
from glyptarch_server.front.views import view_of_values
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts.queries import post_of
from glyptarch_server.posts.schemas import ValuesIn
from glyptarch_server.proofs.answers import over_of
from glyptarch_server.proofs.prove import post_anyway, prove_one
from glyptarch_server.proofs.schemas import ProofItemIn

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["router"]

router = Router(tags=["front"])


class PreviewOut(Out):
    """A whole page as HTML, empty where nothing is left of the item.

    ``stopped`` says that the item becomes no post: the page shows the one it would have become.
    """

    html: str
    stopped: bool = False


@router.post("/blogs/{blog}/campaigns/{slug}/proof/preview", response=PreviewOut, operation_id="previewItem")
def preview_item(request: HttpRequest, blog: str, slug: str, payload: ProofItemIn) -> PreviewOut:
    """Show the post that an item of a proof becomes, or would become if no rule stopped it."""
    row = blog_for(request.user, blog)
    campaign = campaign_of(row, slug)
    proved = prove_one(
        campaign,
        payload.document,
        payload.item,
        now=payload.as_of,
        over=over_of(payload),
        against=payload.against,
    )
    draft, stopped = proved.decision.draft, proved.decision.draft is None
    if draft is None:
        draft = post_anyway(campaign, payload.document, proved, now=payload.as_of)
    if draft is None:
        return PreviewOut(html="", stopped=stopped)
    captured = proved.decision.captured
    pictures, recordings = media_of(draft.body)
    leads = [medium.url for medium in (draft.lead, *draft.spare_leads) if medium]
    sounds = [medium.url for medium in captured.item.media if medium.kind is MediaKind.SOUND]
    copies = copies_of(row.pk, {*pictures, *recordings, *leads, *sounds}, recordings=True)
    facts = captured.item.facts
    player, sound = player_of(facts, row.player_hosts), sound_of(sounds, facts, draft.body, copies)
    answer = _preview(row, view_of_draft(draft, captured.source, copies), player=player, sound=sound)
    return PreviewOut(html=answer.html, stopped=stopped)


@router.get("/blogs/{blog}/posts/{int:post_id}/preview", response=PreviewOut, operation_id="previewPost")
def preview_post(request: HttpRequest, blog: str, post_id: int) -> PreviewOut:
    """Return the preview of a saved post in any state."""
    row = blog_for(request.user, blog)
    post = post_of(row, post_id)
    copies = copies_of(row.pk, addresses_of(post), recordings=True)
    facts = post.item.facts if post.item else {}
    player, sound = player_of(facts, row.player_hosts), sound_of(sounds_in(post), facts, post.body, copies)
    return _preview(in_language_of(row, post.language), view_of_post(post, copies), player=player, sound=sound)


class DraftIn(ValuesIn):
    """Unsaved values that a person is writing, of a post where one exists already."""

    post: RowNumber | None = None


@router.post("/blogs/{blog}/post-preview", response=PreviewOut, operation_id="previewDraft")
def preview_draft(request: HttpRequest, blog: str, payload: DraftIn) -> PreviewOut:
    """Return the preview of a post with unsaved values."""
    row = blog_for(request.user, blog)
    post = post_of(row, payload.post) if payload.post else None
    values = payload.model_dump(exclude={"post"}, exclude_none=True)
    shown = view_of_values(values, post, blog=row, now=wiring.clock()())
    return _preview(row, shown)


class LackingOut(Out):
    """One thing that a post lacks, with the numbers of its sentence."""

    lack: Lack
    data: dict[str, int]


class FindableOut(Out):
    """A post as search engines and programs that share it see it, and what it lacks.

    ``mapped`` says whether it is in the site map, or would be once it is published.
    """

    title: str
    description: str
    address: str
    picture: str
    original: str
    mapped: bool
    lacks: list[LackingOut]


@router.get("/blogs/{blog}/posts/{int:post_id}/findable", response=FindableOut, operation_id="getFindable")
def get_findable(request: HttpRequest, blog: str, post_id: RowNumber) -> FindableOut:
    """Return how a post is found and shared, and what it lacks for that."""
    row = blog_for(request.user, blog)
    post = post_of(row, post_id)
    shown = view_of_post(post, copies_of(row.pk, addresses_of(post), recordings=False))
    lead, public = shown.lead, post.visibility == Visibility.PUBLIC.value
    seen = Findable(
        title=shown.title,
        description=shown.summary,
        body=shown.body,
        picture=lead.picture.url if lead else "",
        width=(lead.picture.width or 0) if lead else 0,
        alt=lead.alt if lead else "",
        public=public,
        original=post.canonical,
    )
    return FindableOut(
        title=f"{shown.title} · {row.title}",
        description=seen.description,
        address=request.build_absolute_uri(f"{home_in(row, post.language)}{post.slug}/"),
        picture=seen.picture,
        original=post.canonical,
        mapped=public and not post.canonical,
        lacks=[LackingOut(lack=one.lack, data=dict(one.data)) for one in lacks(seen)],
    )


class WordingOut(Out):
    """A wording of a blog's pages, in English and as it usually is in a language."""

    english: str
    usual: str


@router.get("/wordings/{language}", response=list[WordingOut], operation_id="listWordings")
def list_wordings(request: HttpRequest, language: str) -> list[WordingOut]:
    """Return the wordings of blogs' pages in a language.

    Owners can put their own in the place of each.
    """
    del request
    return [WordingOut(english=english, usual=usual) for english, usual in usual_words(language[:35])]


class ReadyFrontsOut(Out):
    """The parts that are ready for each kind of front."""

    parts: dict[str, tuple[Part, ...]]


@router.get("/ready-fronts", response=ReadyFrontsOut, operation_id="getReadyFronts")
def get_ready_fronts(request: HttpRequest) -> ReadyFrontsOut:
    """Return the parts of the fronts that are ready to use."""
    del request
    return ReadyFrontsOut(parts=dict(READY))


class LookIn(Schema):
    """A look that is being chosen, by day or by night."""

    appearance: Look
    night: bool = False


@router.post("/blogs/{blog}/appearance/preview", response=PreviewOut, operation_id="previewAppearance")
def preview_appearance(request: HttpRequest, blog: str, payload: LookIn) -> PreviewOut:
    """Return the front of a blog in a look that is not saved."""
    row = blog_for(request.user, blog, Role.OWNER)
    with words_of(row):
        context = blog_context(request, row, look=payload.appearance)
        shown = front_context(row, payload.appearance, member=True)
        html = render_to_string(
            "front/front.html", {**context, **shown, "night": payload.night, "own_css": own_css(payload.appearance)}
        )
    return PreviewOut(html=html)


def _preview(
    blog: "Blog", post: PostView, *, player: PlayerView | None = None, sound: SoundView | None = None
) -> PreviewOut:
    context = {**blog_context(None, blog), "post": post, "player": player, "sound": sound, "preview": True}
    with words_of(blog):
        shelf = Shelf(blog, keys_in(post.body), now=wiring.clock()())
        text, context["contents"] = with_contents(post.kind, shelf.fill(post.shown_body))
        context["disclosure"] = shelf.disclosure
        context["body"], _ = with_players(text, blog.player_hosts, post.title, preview=True)
        return PreviewOut(html=render_to_string("front/post.html", context))
