"""The API of editions, and of the languages of a blog."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.editions import actions, queries
from glyptarch_server.editions.answers import editions_out, languages_out, texts_out
from glyptarch_server.editions.schemas import (
    EditionIn,
    EditionOut,
    EditionTextsOut,
    LanguagesIn,
    LanguagesOut,
    WantEditionsIn,
    WantedOut,
)
from glyptarch_server.posts.answers import selected
from glyptarch_server.services.schemas import TextsCostOut

__all__ = ["router"]

router = Router(tags=["editions"])


@router.get("/blogs/{blog}/languages", response=LanguagesOut, operation_id="getLanguages")
def get_languages(request: HttpRequest, blog: str) -> LanguagesOut:
    """Return the languages of a blog, and how many editions they have."""
    return languages_out(blog_for(request.user, blog))


@router.put("/blogs/{blog}/languages", response=LanguagesOut, operation_id="saveLanguages")
def save_languages(request: HttpRequest, blog: str, payload: LanguagesIn) -> LanguagesOut:
    """Save the languages of a blog beside its usual one. Editions that are there stay."""
    owned = blog_for(request.user, blog, Role.OWNER)
    actions.save_languages(owned, payload.document, begun=payload.begun)
    return languages_out(owned)


@router.post("/blogs/{blog}/editions", response=WantedOut, operation_id="wantEditions")
def want_editions(request: HttpRequest, blog: str, payload: WantEditionsIn) -> WantedOut:
    """Want an edition of each of at most 5,000 posts, or only say their number and cost."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    numbers = selected(owned, payload)
    if payload.go:
        wanted = actions.want_for_posts(owned, numbers, payload.language, payload.mode, now=wiring.clock()())
        return WantedOut(posts=wanted, characters=0, costs=[])
    number, characters, costs = queries.cost_of(owned, numbers, payload.language)
    return WantedOut(posts=number, characters=characters, costs=[TextsCostOut.from_orm(cost) for cost in costs])


@router.get("/blogs/{blog}/posts/{int:post_id}/editions", response=list[EditionOut], operation_id="listEditions")
def list_editions(request: HttpRequest, blog: str, post_id: RowNumber) -> list[EditionOut]:
    """Return each language of the blog with the edition that a post has in it."""
    return editions_out(queries.original_of(blog_for(request.user, blog), post_id))


@router.post("/blogs/{blog}/posts/{int:post_id}/editions", response=list[EditionOut], operation_id="wantEdition")
def want_edition(request: HttpRequest, blog: str, post_id: RowNumber, payload: EditionIn) -> list[EditionOut]:
    """Want an edition of a post in a language of the blog."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.original_of(owned, post_id)
    actions.want_for_posts(owned, [post.pk], payload.language, payload.mode, now=wiring.clock()())
    return editions_out(post)


@router.get(
    "/blogs/{blog}/posts/{int:post_id}/editions/{language}", response=EditionTextsOut, operation_id="getEditionTexts"
)
def get_edition_texts(request: HttpRequest, blog: str, post_id: RowNumber, language: str) -> EditionTextsOut:
    """Return an edition beside its original, block by block."""
    owned = blog_for(request.user, blog)
    post = queries.original_of(owned, post_id)
    return texts_out(post, queries.edition_of_post(post, language), queries.language_named(owned, language))


@router.post(
    "/blogs/{blog}/posts/{int:post_id}/editions/{language}/anew",
    response=list[EditionOut],
    operation_id="makeEditionAnew",
)
def make_edition_anew(request: HttpRequest, blog: str, post_id: RowNumber, language: str) -> list[EditionOut]:
    """Make an edition again from its original as it is now.

    What people have changed in it is in its history.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.original_of(owned, post_id)
    queries.language_named(owned, language)
    actions.make_anew(queries.edition_of_post(post, language), now=wiring.clock()())
    return editions_out(post)
