"""The API of posts."""

from dataclasses import asdict
from typing import TYPE_CHECKING, Annotated

from django.http import HttpRequest, HttpResponseBase
from glyptarch_core.platforms.suggest import suggestions
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.paging import PAGE, Limit, Offset
from glyptarch_server.common.problems import Invalid
from glyptarch_server.posts import actions, desk_list, editing, queries
from glyptarch_server.posts.alike import about_the_same_event, alike_to
from glyptarch_server.posts.answers import filter_of, posts_out
from glyptarch_server.posts.changing import values_of
from glyptarch_server.posts.filters import Sort
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.listing import csv_of
from glyptarch_server.posts.reads import DAYS, read_by, read_posts, reads_by_day
from glyptarch_server.posts.schemas import (
    AlikeOut,
    EditIn,
    FilterIn,
    HistoryOut,
    MoveIn,
    PostOut,
    PostPageOut,
    ReadLineOut,
    ReadPostOut,
    ReadsOfDayOut,
    ReadsOut,
    ReasonOut,
    RestoreIn,
    SameEventOut,
    SuggestedOut,
    ValuesIn,
    ValuesOut,
    WordsOut,
)
from glyptarch_server.sources.queries import source_of

if TYPE_CHECKING:
    pass

__all__ = ["router"]

router = Router(tags=["posts"])


@router.get("/blogs/{blog}/posts", response=PostPageOut, operation_id="listPosts")
def list_posts(
    request: HttpRequest,
    blog: str,
    wanted: Query[FilterIn],
    sort: Sort = "newest",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> PostPageOut:
    """Return the posts of a blog.

    Without a state all but binned ones.
    """
    owned = blog_for(request.user, blog)
    page = desk_list.page_of_posts(owned, filter_of(wanted), sort=sort, limit=limit, offset=offset)
    return PostPageOut(rows=posts_out(owned, page.rows), total=page.total, states=page.states)


@router.get("/blogs/{blog}/posts.csv", operation_id="downloadPosts", url_name="posts_csv")
def download_posts(request: HttpRequest, blog: str, wanted: Query[FilterIn], sort: Sort = "newest") -> HttpResponseBase:
    """Return all posts that a filter finds as CSV (RFC 4180)."""
    owned = blog_for(request.user, blog)
    return csv_of(owned, desk_list.numbers_of(owned, filter_of(wanted), sort=sort))


@router.post("/blogs/{blog}/posts", response=PostOut, operation_id="writePost")
def write_post(request: HttpRequest, blog: str, payload: ValuesIn) -> PostOut:
    """Create a post by hand, as a draft."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    values = payload.model_dump(exclude_none=True)
    if "title" not in values:
        raise Invalid("A post needs a title.")
    post = editing.write_post(owned, values, now=wiring.clock()())
    return posts_out(owned, [queries.post_of(owned, post.pk)])[0]


@router.get("/blogs/{blog}/posts/{int:post_id}", response=PostOut, operation_id="getPost")
def get_post(request: HttpRequest, blog: str, post_id: int) -> PostOut:
    """Return one post."""
    owned = blog_for(request.user, blog)
    return posts_out(owned, [queries.post_of(owned, post_id)])[0]


@router.get("/blogs/{blog}/posts/{int:post_id}/values", response=ValuesOut, operation_id="getPostValues")
def get_post_values(request: HttpRequest, blog: str, post_id: int) -> ValuesOut:
    """Return all editable values of a post."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return ValuesOut(version=post.version, **values_of(post))


@router.put("/blogs/{blog}/posts/{int:post_id}", response=PostOut, operation_id="editPost")
def edit_post(request: HttpRequest, blog: str, post_id: int, payload: EditIn) -> PostOut:
    """Change a post.

    Omitted values stay. Refused where somebody has changed it since.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.post_of(owned, post_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    editing.edit_post(post, values, version=payload.version, now=wiring.clock()())
    return get_post(request, blog, post_id)


@router.get("/blogs/{blog}/posts/{int:post_id}/alike", response=list[AlikeOut], operation_id="getAlike")
def get_alike(request: HttpRequest, blog: str, post_id: int) -> list[AlikeOut]:
    """Return the posts most similar to a post, with the common passages."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return [
        AlikeOut(
            id=similar.post.pk,
            title=similar.post.title,
            state=PostState(similar.post.state),
            source=similar.post.source.title if similar.post.source else "",
            date=similar.post.date,
            likeness=round(similar.likeness, 3),
            passages=list(similar.passages),
        )
        for similar in alike_to(post)
    ]


@router.get("/blogs/{blog}/posts/{int:post_id}/same-event", response=list[SameEventOut], operation_id="getSameEvent")
def get_same_event(request: HttpRequest, blog: str, post_id: int) -> list[SameEventOut]:
    """Return posts that may tell the same event in other words, with the rare words in both."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return [
        SameEventOut(
            id=event.post.pk,
            title=event.post.title,
            state=PostState(event.post.state),
            source=event.post.source.title if event.post.source else "",
            date=event.post.date,
            likeness=round(event.likeness, 3),
            words=list(event.words),
        )
        for event in about_the_same_event(post)
    ]


@router.get("/blogs/{blog}/reads", response=ReadsOut, operation_id="getReads")
def get_reads(request: HttpRequest, blog: str, days: Annotated[int, Query(ge=1, le=400)] = DAYS) -> ReadsOut:
    """Return how often posts were read in the last days, by day, post, source and campaign."""
    owned, today = blog_for(request.user, blog), wiring.clock()().date()
    by_day = reads_by_day(owned, today=today, days=days)
    return ReadsOut(
        total=sum(reads for _, reads in by_day),
        days=[ReadsOfDayOut(day=day, reads=reads) for day, reads in by_day],
        posts=[
            ReadPostOut(
                id=read.post.pk,
                title=read.post.title,
                source=read.post.source.title if read.post.source else "",
                reads=read.reads,
            )
            for read in read_posts(owned, today=today, most=_MOST_READ, days=days)
        ],
        sources=[ReadLineOut(**asdict(line)) for line in read_by(owned, "source", today=today, days=days)],
        campaigns=[ReadLineOut(**asdict(line)) for line in read_by(owned, "campaign", today=today, days=days)],
    )


_MOST_READ = 25


@router.get("/blogs/{blog}/held-reasons", response=list[ReasonOut], operation_id="listHeldReasons")
def list_held_reasons(request: HttpRequest, blog: str) -> list[ReasonOut]:
    """Return the reasons why posts are held, most frequent first."""
    reasons = queries.held_reasons(blog_for(request.user, blog))
    return [ReasonOut(code=code, posts=number) for code, number in reasons.items()]


@router.get("/blogs/{blog}/posts/{int:post_id}/history", response=list[HistoryOut], operation_id="getPostHistory")
def get_post_history(request: HttpRequest, blog: str, post_id: int) -> list[HistoryOut]:
    """Return the changes of a post, latest first."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return [HistoryOut(**asdict(entry)) for entry in editing.history_of(post)]


@router.get(
    "/blogs/{blog}/posts/{int:post_id}/versions/{int:version}", response=ValuesOut, operation_id="getPostVersion"
)
def get_post_version(request: HttpRequest, blog: str, post_id: int, version: int) -> ValuesOut:
    """Return a post at a version.

    Version 1 is the one made by the rules.
    """
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return ValuesOut(version=version, **editing.values_at(post, version))


@router.post(
    "/blogs/{blog}/posts/{int:post_id}/versions/{int:version}/restore",
    response=PostOut,
    operation_id="restorePostVersion",
)
def restore_post_version(request: HttpRequest, blog: str, post_id: int, version: int, payload: RestoreIn) -> PostOut:
    """Restore texts, names and address of a version."""
    post = queries.post_of(blog_for(request.user, blog, Role.EDITOR), post_id)
    editing.restore_version(post, version, seen=payload.seen, now=wiring.clock()())
    return get_post(request, blog, post_id)


@router.post("/blogs/{blog}/posts/{int:post_id}/state", response=PostOut, operation_id="movePost")
def move_post(request: HttpRequest, blog: str, post_id: int, payload: MoveIn) -> PostOut:
    """Publish a post, schedule it, refuse it, put it into the bin, or take any of it back."""
    role = Role.EDITOR if payload.state is PostState.BINNED else Role.REVIEWER
    owned = blog_for(request.user, blog, role)
    post = queries.post_of(owned, post_id)
    if payload.state is PostState.SCHEDULED and payload.date is None and post.date <= wiring.clock()():
        raise Invalid("Choose a date and time to schedule the post.")
    actions.move_post(post, payload.state, seen=payload.seen, date=payload.date, why=payload.why, now=wiring.clock()())
    return posts_out(owned, [queries.post_of(owned, post_id)])[0]


@router.get("/blogs/{blog}/sources/{key}/words", response=list[WordsOut], operation_id="getWords")
def get_words(request: HttpRequest, blog: str, key: str) -> list[WordsOut]:
    """Return the number of items and of posts for each search line of a source."""
    source = source_of(blog_for(request.user, blog), key)
    return [
        WordsOut(text=text, brought=brought, kept=kept)
        for text, (brought, kept) in sorted(queries.words_of(source).items())
    ]


@router.get("/blogs/{blog}/sources/{key}/suggested-words", response=list[SuggestedOut], operation_id="suggestWords")
def suggest_words(request: HttpRequest, blog: str, key: str) -> list[SuggestedOut]:
    """Return suggested search words: phrases of items that became posts, rare in others."""
    source = source_of(blog_for(request.user, blog), key)
    kept, others = queries.told_by(source)
    search_lines = [line["text"] for line in source.ask.search_words] if source.ask else []
    phrases = wiring.apart().call(suggestions, [(kept, others, search_lines)])[0] or []
    return [
        SuggestedOut(text=suggestion.phrase, kept=suggestion.kept, elsewhere=suggestion.elsewhere)
        for suggestion in phrases
    ]
