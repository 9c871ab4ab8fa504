"""The API of posts."""

from dataclasses import asdict
from typing import TYPE_CHECKING, Any

from django.http import HttpRequest, HttpResponseBase
from glyptarch_core.draft import Visibility
from glyptarch_core.item import Right
from glyptarch_core.platforms.suggest import suggestions
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, SEARCHED, Limit, Offset, page_of
from glyptarch_server.common.problems import Invalid
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts import actions, changes, editing, emptying, queries, takedown
from glyptarch_server.posts.alike import alike_to
from glyptarch_server.posts.changing import values_of
from glyptarch_server.posts.lifecycle import MOVES, ChangeState, PostState
from glyptarch_server.posts.listing import csv_of
from glyptarch_server.posts.queries import PostFilter, Sort
from glyptarch_server.posts.schemas import (
    AlikeOut,
    EditIn,
    FilterIn,
    HistoryOut,
    MoveIn,
    PostChangeIn,
    PostChangeOut,
    PostOut,
    PostPageOut,
    ReasonOut,
    RestoreIn,
    SelectionIn,
    SuggestedOut,
    TakedownIn,
    TakedownOut,
    TakedownPageOut,
    TouchedOut,
    ValuesIn,
    ValuesOut,
    ViewIn,
    ViewOut,
    WithdrawnOut,
    WordsOut,
)
from glyptarch_server.sources.queries import source_of

if TYPE_CHECKING:
    from collections.abc import Collection, Mapping, Sequence

    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.posts.models import Change, Post, Takedown

__all__ = ["router"]

router = Router(tags=["posts"])


def _filter(given: FilterIn) -> PostFilter:
    values = given.model_dump()
    for name in ("state", "visibility"):
        values[name] = values[name].value if values[name] else ""
    return PostFilter(**values)


def _posts(blog: "Blog", rows: "Sequence[Post]") -> list[PostOut]:
    """Give posts for the desk, with the small copies of their pictures and how many comments they have."""
    comments = queries.comment_counts(rows)
    copies = copies_of(blog.pk, {row.lead_url for row in rows if row.copies_pictures})
    return [_post(row, comments.get(row.pk, 0), copies) for row in rows]


def _post(row: "Post", comments: int = 0, copies: "Mapping[str, Any]" = {}) -> PostOut:  # noqa: B006 - never written to
    state = PostState(row.state)
    kept = copies.get(row.lead_url)
    small = kept.webp[0][0] if kept and kept.webp else row.lead_url
    return PostOut(
        id=row.pk,
        state=state,
        title=row.title,
        excerpt=row.excerpt,
        slug=row.slug,
        picture=small,
        category=row.category.name if row.category else "",
        categories=[category.name for category in row.categories.all()],
        tags=[tag.name for tag in row.tags.all()],
        kind=row.kind,
        pinned=row.pinned,
        visibility=Visibility(row.visibility),
        byline=row.byline.name if row.byline else "",
        campaign=row.campaign.name if row.campaign else "",
        campaign_slug=row.campaign.slug if row.campaign else "",
        revision=row.revision.number if row.revision else None,
        source=row.source.title if row.source else "",
        right=Right(row.source.right) if row.source else None,
        right_words=row.source.right_words if row.source else 0,
        link=row.link,
        date=row.date,
        created_at=row.created_at,
        moves=sorted(MOVES[state] - {PostState.GONE}),
        version=row.version,
        edited=row.edited,
        words=row.words,
        comments=comments,
        binned_at=row.binned_at,
        marker=row.marker,
    )


@router.get("/blogs/{blog}/posts", response=PostPageOut, operation_id="listPosts")
def list_posts(
    request: HttpRequest,
    blog: str,
    wanted: Query[FilterIn],
    sort: Sort = "newest",
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> PostPageOut:
    """Give the posts of a blog; without a state all but those in the bin."""
    owned, narrowed = blog_for(request.user, blog), _filter(wanted)
    states = queries.state_counts(owned, narrowed, most=SEARCHED)
    known = None
    if states is not None:
        shown = [wanted.state.value] if wanted.state else queries.AT_THE_DESK
        known = sum(states[state] for state in shown)
    rows = queries.listed_posts(owned, narrowed, sort=sort)
    page, total = page_of(rows, limit=limit, offset=offset, total=known, most=SEARCHED if wanted.search else None)
    return PostPageOut(rows=_posts(owned, page), total=total, states=states)


@router.get("/blogs/{blog}/posts.csv", operation_id="downloadPosts", url_name="posts_csv")
def download_posts(request: HttpRequest, blog: str, wanted: Query[FilterIn], sort: Sort = "newest") -> HttpResponseBase:
    """Give the posts that a filter finds as CSV (RFC 4180), as many as there are."""
    owned = blog_for(request.user, blog)
    return csv_of(owned, queries.numbers_of(owned, _filter(wanted), sort=sort))


@router.post("/blogs/{blog}/posts", response=PostOut, operation_id="writePost")
def write_post(request: HttpRequest, blog: str, payload: ValuesIn) -> PostOut:
    """Write a post by hand; it begins as a draft."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    values = payload.model_dump(exclude_none=True)
    if "title" not in values:
        raise Invalid("A post needs a title.")
    made = editing.write_post(owned, values, now=wiring.clock()())
    return _post(queries.post_of(owned, made.pk))


@router.get("/blogs/{blog}/posts/{int:post_id}", response=PostOut, operation_id="getPost")
def get_post(request: HttpRequest, blog: str, post_id: int) -> PostOut:
    """Give one post."""
    owned = blog_for(request.user, blog)
    return _posts(owned, [queries.post_of(owned, post_id)])[0]


@router.get("/blogs/{blog}/posts/{int:post_id}/values", response=ValuesOut, operation_id="getPostValues")
def get_post_values(request: HttpRequest, blog: str, post_id: int) -> ValuesOut:
    """Give all that can be edited in a post."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return ValuesOut(version=post.version, **values_of(post))


@router.put("/blogs/{blog}/posts/{int:post_id}", response=PostOut, operation_id="editPost")
def edit_post(request: HttpRequest, blog: str, post_id: int, payload: EditIn) -> PostOut:
    """Change a post by hand. What is left out stays; refused where somebody has changed it since."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.post_of(owned, post_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    editing.edit_post(post, values, version=payload.version, now=wiring.clock()())
    return get_post(request, blog, post_id)


@router.get("/blogs/{blog}/posts/{int:post_id}/alike", response=list[AlikeOut], operation_id="getAlike")
def get_alike(request: HttpRequest, blog: str, post_id: int) -> list[AlikeOut]:
    """Give the posts whose texts share most with a post's, with the passages that stand in both."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return [
        AlikeOut(
            id=one.post.pk,
            title=one.post.title,
            state=PostState(one.post.state),
            source=one.post.source.title if one.post.source else "",
            date=one.post.date,
            likeness=round(one.likeness, 3),
            passages=list(one.passages),
        )
        for one in alike_to(post)
    ]


@router.get("/blogs/{blog}/held-reasons", response=list[ReasonOut], operation_id="listHeldReasons")
def list_held_reasons(request: HttpRequest, blog: str) -> list[ReasonOut]:
    """Say why posts are held, the most frequent reason first."""
    reasons = queries.held_reasons(blog_for(request.user, blog))
    return [ReasonOut(code=code, posts=number) for code, number in reasons.items()]


@router.get("/blogs/{blog}/posts/{int:post_id}/history", response=list[HistoryOut], operation_id="getPostHistory")
def get_post_history(request: HttpRequest, blog: str, post_id: int) -> list[HistoryOut]:
    """Say what was done to a post, the latest first."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return [HistoryOut(**asdict(entry)) for entry in editing.history_of(post)]


@router.get(
    "/blogs/{blog}/posts/{int:post_id}/versions/{int:version}", response=ValuesOut, operation_id="getPostVersion"
)
def get_post_version(request: HttpRequest, blog: str, post_id: int, version: int) -> ValuesOut:
    """Give a post as it was; version 1 is what the rules made of it."""
    post = queries.post_of(blog_for(request.user, blog), post_id)
    return ValuesOut(version=version, **editing.values_at(post, version))


@router.post(
    "/blogs/{blog}/posts/{int:post_id}/versions/{int:version}/restore",
    response=PostOut,
    operation_id="restorePostVersion",
)
def restore_post_version(request: HttpRequest, blog: str, post_id: int, version: int, payload: RestoreIn) -> PostOut:
    """Give a post the texts, names and address back that it had at a version."""
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
        raise Invalid("Say when it is to go out.")
    actions.move_post(post, payload.state, seen=payload.seen, date=payload.date, why=payload.why, now=wiring.clock()())
    return _posts(owned, [queries.post_of(owned, post_id)])[0]


def _numbers(blog: "Blog", given: SelectionIn) -> "Collection[int]":
    if (given.ids is None) == (given.filter is None):
        raise Invalid("Name posts by their numbers, or give a filter: one of the two.")
    if given.ids is not None:
        return queries.own_numbers(blog, given.ids)
    return queries.numbers_of(blog, _filter(given.filter)) if given.filter else []


_NEEDS = {"moved": ("to",), "category": ("category",), "byline": ("byline",), "tags": (), "binned": (), "restored": ()}
_PARTS = {
    "moved": ("to", "date", "seen", "why"),
    "category": ("category",),
    "byline": ("byline",),
    "tags": ("add", "remove"),
    "binned": ("marker", "spare"),
    "restored": (),
}


@router.post("/blogs/{blog}/post-changes", response=PostChangeOut, operation_id="changePosts")
def change_posts(request: HttpRequest, blog: str, payload: PostChangeIn) -> PostChangeOut:
    """Do one thing to many posts: at once where they are few, else in a job whose progress can be asked for."""
    owned = blog_for(request.user, blog, Role.REVIEWER if payload.action == "moved" else Role.EDITOR)
    values = payload.model_dump(mode="json")
    missing = [name for name in _NEEDS[payload.action] if not values[name]]
    if missing:
        raise Invalid(f"Say which {missing[0]}." if missing[0] != "to" else "Say which state they are to go to.")
    if payload.to == "scheduled" and payload.date is None:
        raise Invalid("Say when they are to go out.")
    what = {name: values[name] for name in _PARTS[payload.action] if values[name] is not None}
    change = changes.begin_change(
        owned, changes.Action(payload.action), what, _numbers(owned, payload), now=wiring.clock()()
    )
    return _change(queries.change_of(owned, change.pk))


def _change(row: "Change") -> PostChangeOut:
    back = getattr(row, "taken_back_by", None)
    return PostChangeOut(
        id=row.pk,
        action=row.action,
        to=str(row.what.get("to", "")),
        subject=row.subject,
        by=row.name,
        at=row.at,
        state=ChangeState(row.state),
        posts=row.number,  # type: ignore[attr-defined]  # annotated by the queries
        done=row.done,
        changed=row.changed,
        taken_back=back is not None,
        taken_back_by=back.pk if back else None,
    )


@router.post("/blogs/{blog}/post-changes/count", response=TouchedOut, operation_id="countPosts")
def count_posts(request: HttpRequest, blog: str, payload: SelectionIn) -> TouchedOut:
    """Say what is known of posts before something is done to them."""
    owned = blog_for(request.user, blog)
    return TouchedOut(**asdict(queries.touched(owned, _numbers(owned, payload))))


@router.get("/blogs/{blog}/post-changes", response=list[PostChangeOut], operation_id="listChanges")
def list_changes(request: HttpRequest, blog: str, limit: Limit = 20) -> list[PostChangeOut]:
    """Give what was done to posts last."""
    return [_change(row) for row in queries.listed_changes(blog_for(request.user, blog))[:limit]]


@router.get("/blogs/{blog}/post-changes/{int:number}", response=PostChangeOut, operation_id="getChange")
def get_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Say how far a change has come."""
    return _change(queries.change_of(blog_for(request.user, blog), number))


@router.post("/blogs/{blog}/post-changes/{int:number}/stop", response=PostChangeOut, operation_id="stopChange")
def stop_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Stop a change; what it has changed stays, and can be taken back."""
    owned = blog_for(request.user, blog, Role.REVIEWER)
    changes.stop_change(queries.change_of(owned, number))
    return get_change(request, blog, number)


@router.post("/blogs/{blog}/post-changes/{int:number}/take-back", response=PostChangeOut, operation_id="takeBackChange")
def take_back_change(request: HttpRequest, blog: str, number: RowNumber) -> PostChangeOut:
    """Undo a change; what was changed again since is left as it is. Gives the change that undoes it."""
    owned = blog_for(request.user, blog, Role.REVIEWER)
    change = queries.change_of(owned, number)
    if change.action != changes.Action.MOVE.value:
        blog_for(request.user, blog, Role.EDITOR)
    made = changes.take_back(change, now=wiring.clock()())
    return _change(queries.change_of(owned, made.pk))


@router.delete("/blogs/{blog}/bin", response={204: None}, operation_id="emptyBin")
def empty_bin(request: HttpRequest, blog: str) -> tuple[int, None]:
    """Empty the bin; it cannot be taken back."""
    emptying.empty_bin(blog_for(request.user, blog, Role.EDITOR), now=wiring.clock()())
    return 204, None


def _takedown(row: "Takedown") -> TakedownOut:
    return TakedownOut(
        id=row.pk,
        subject=row.subject,
        whole_source=row.source is not None,
        asked_by=row.asked_by,
        reason=row.reason,
        withdrawn=[WithdrawnOut(**one) for one in row.withdrawn],
        by=row.name,
        at=row.at,
        lifted_at=row.lifted_at,
    )


@router.post("/blogs/{blog}/posts/{int:post_id}/takedown", response=TakedownOut, operation_id="takeDownPost")
def take_down_post(request: HttpRequest, blog: str, post_id: int, payload: TakedownIn) -> TakedownOut:
    """Withdraw all posts that lead to the same original as this one, and block that link."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    post = queries.post_of(owned, post_id)
    now = wiring.clock()()
    return _takedown(takedown.take_down_post(post, asked_by=payload.asked_by, reason=payload.reason, now=now))


@router.post("/blogs/{blog}/sources/{key}/takedown", response=TakedownOut, operation_id="takeDownSource")
def take_down_source(request: HttpRequest, blog: str, key: str, payload: TakedownIn) -> TakedownOut:
    """Withdraw all posts that came from a source, and block it."""
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    now = wiring.clock()()
    return _takedown(takedown.take_down_source(source, asked_by=payload.asked_by, reason=payload.reason, now=now))


@router.get("/blogs/{blog}/takedowns", response=TakedownPageOut, operation_id="listTakedowns")
def list_takedowns(request: HttpRequest, blog: str, limit: Limit = PAGE, offset: Offset = 0) -> TakedownPageOut:
    """Give what was withdrawn because somebody asked."""
    page, total = page_of(queries.listed_takedowns(blog_for(request.user, blog)), limit=limit, offset=offset)
    return TakedownPageOut(rows=[_takedown(row) for row in page], total=total)


@router.post("/blogs/{blog}/takedowns/{int:number}/lift", response=TakedownOut, operation_id="liftTakedown")
def lift_takedown(request: HttpRequest, blog: str, number: RowNumber) -> TakedownOut:
    """Allow again what was blocked; its posts stay in the bin."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    takedown.lift(queries.takedown_of(owned, number), now=wiring.clock()())
    return _takedown(queries.takedown_of(owned, number))


@router.get("/blogs/{blog}/post-views", response=list[ViewOut], operation_id="listPostViews")
def list_post_views(request: HttpRequest, blog: str) -> list[ViewOut]:
    """Give the named filters of the list of posts."""
    rows = queries.kept_views(blog_for(request.user, blog))
    return [ViewOut.model_validate(row, from_attributes=True) for row in rows]


@router.post("/blogs/{blog}/post-views", response=ViewOut, operation_id="keepPostView")
def keep_post_view(request: HttpRequest, blog: str, payload: ViewIn) -> ViewOut:
    """Keep a filter under a name; one of this name is replaced."""
    row = actions.keep_view(blog_for(request.user, blog, Role.REVIEWER), payload.name, payload.query)
    return ViewOut.model_validate(row, from_attributes=True)


@router.delete("/blogs/{blog}/post-views/{int:number}", response={204: None}, operation_id="removePostView")
def remove_post_view(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove a named filter."""
    actions.remove_view(blog_for(request.user, blog, Role.REVIEWER), number)
    return 204, None


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
