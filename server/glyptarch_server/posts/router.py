"""The API of posts."""

from typing import TYPE_CHECKING, Literal

from django.http import HttpRequest
from glyptarch_core.draft import Visibility
from glyptarch_core.platforms.suggest import suggestions
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.paging import PAGE, SEARCHED, Limit, Offset, page_of
from glyptarch_server.posts import actions, queries
from glyptarch_server.posts.lifecycle import MOVES, PostState
from glyptarch_server.posts.schemas import MoveIn, PostOut, PostPageOut, SuggestedOut, WordsOut
from glyptarch_server.sources.queries import source_of

if TYPE_CHECKING:
    from glyptarch_server.posts.models import Post

__all__ = ["router"]

router = Router(tags=["posts"])


def _post(row: "Post") -> PostOut:
    state = PostState(row.state)
    return PostOut(
        id=row.pk,
        state=state,
        title=row.title,
        excerpt=row.excerpt,
        slug=row.slug,
        picture=row.lead_url,
        category=row.category.name if row.category else "",
        categories=[category.name for category in row.categories.all()],
        tags=[tag.name for tag in row.tags.all()],
        kind=row.kind,
        pinned=row.pinned,
        visibility=Visibility(row.visibility),
        byline=row.byline.name if row.byline else "",
        campaign=row.campaign.name,
        campaign_slug=row.campaign.slug,
        revision=row.revision.number,
        source=row.source.title,
        link=row.link,
        date=row.date,
        created_at=row.created_at,
        moves=sorted(MOVES[state]),
    )


@router.get("/blogs/{blog}/posts", response=PostPageOut, operation_id="listPosts")
def list_posts(
    request: HttpRequest,
    blog: str,
    state: PostState | None = None,
    campaign: str = "",
    source: str = "",
    search: str = "",
    sort: Literal["newest", "oldest", "title"] = "newest",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> PostPageOut:
    """Give the posts of a blog, whatever their state."""
    owned = blog_for(request.user, blog)
    rows = queries.listed_posts(
        owned, state=state.value if state else "", campaign=campaign, source=source, search=search, sort=sort
    )
    states = queries.state_counts(owned, campaign=campaign, source=source, search=search, most=SEARCHED)
    known = None if states is None else states[state.value] if state else sum(states.values())
    page, total = page_of(rows, limit=limit, offset=offset, total=known, most=SEARCHED if search else None)
    return PostPageOut(rows=[_post(row) for row in page], total=total, states=states)


@router.get("/blogs/{blog}/posts/{int:post_id}", response=PostOut, operation_id="getPost")
def get_post(request: HttpRequest, blog: str, post_id: int) -> PostOut:
    """Give one post."""
    return _post(queries.post_of(blog_for(request.user, blog), post_id))


@router.post("/blogs/{blog}/posts/{int:post_id}/state", response=PostOut, operation_id="movePost")
def move_post(request: HttpRequest, blog: str, post_id: int, payload: MoveIn) -> PostOut:
    """Publish a post, refuse it, or take either back."""
    post = queries.post_of(blog_for(request.user, blog, Role.REVIEWER), post_id)
    return _post(actions.move_post(post, payload.state, seen=payload.seen, now=wiring.clock()()))


@router.get("/blogs/{blog}/sources/{key}/words", response=list[WordsOut], operation_id="getWords")
def get_words(request: HttpRequest, blog: str, key: str) -> list[WordsOut]:
    """Say how many items each line of a source's search words has brought, and of how many a post was made."""
    source = source_of(blog_for(request.user, blog), key)
    return [
        WordsOut(text=text, brought=brought, kept=kept)
        for text, (brought, kept) in sorted(queries.words_of(source).items())
    ]


@router.get("/blogs/{blog}/sources/{key}/suggested-words", response=list[SuggestedOut], operation_id="suggestWords")
def suggest_words(request: HttpRequest, blog: str, key: str) -> list[SuggestedOut]:
    """Suggest search words: phrases of items that became posts, which stand seldom in others."""
    source = source_of(blog_for(request.user, blog), key)
    kept, others = queries.told_by(source)
    known = [line["text"] for line in source.search_words]
    found = wiring.apart().call(suggestions, [(kept, others, known)])[0] or []
    return [SuggestedOut(text=one.phrase, kept=one.kept, elsewhere=one.elsewhere) for one in found]
