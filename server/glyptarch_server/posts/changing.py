"""The values of a post, and writing them.

Every change stores the former values.
"""

from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db.models import Q
from glyptarch_core.draft import Draft
from glyptarch_core.item import MediaKind
from glyptarch_core.pictures import media_of
from glyptarch_core.text import count_words, name_key, plain_text, unused

from glyptarch_server.blogs.actions import bylines_named, categories_named, tags_named, take_turn
from glyptarch_server.blogs.models import Blog
from glyptarch_server.media.actions import ask_for_pictures, ask_for_recordings
from glyptarch_server.posts.following import editions_along, for_writing
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import STANDS, Change, FormerAddress, Post, PostChange
from glyptarch_server.posts.queries import slugs_in_use

__all__ = ["EDITABLE", "ask_for_copies", "locked", "standing", "values_of", "values_of_draft", "write_values"]

EDITABLE = (
    *("title", "slug", "excerpt", "body", "description", "lead_url", "lead_alt", "fields", "categories", "tags"),
    *("byline", "kind", "pinned", "comments", "visibility", "pass_phrase", "language", "canonical", "date"),
)
"""What people change in a post."""

_TIMES = ("date", "out_at", "binned_at")
_KEPT_AS_THEY_ARE = (
    *("title", "slug", "excerpt", "body", "description", "lead_url", "lead_alt", "fields", "spare_leads"),
    *("kind", "pinned", "comments", "visibility", "pass_phrase", "language", "attribution", "canonical", "link"),
    *("state", "marker", "edited", "copies_pictures", "copies_recordings_mb", "revision_id"),
)
_NEEDS_ROOM = {"slug", "state", "marker"}
_SHOWS = {"body", "lead_url", "spare_leads", "copies_pictures", "copies_recordings_mb"}

Values = Mapping[str, Any]


def values_of(post: Post) -> dict[str, Any]:
    """Return all values that a change can change, as JSON.

    Categories are names, the main one first.
    """
    main = post.category.name if post.category else ""
    others = sorted(row.name for row in post.categories.all() if row.name != main)
    return {
        **{name: getattr(post, name) for name in _KEPT_AS_THEY_ARE},
        **{name: at.isoformat() if (at := getattr(post, name)) else None for name in _TIMES},
        "categories": [*([main] if main else []), *others],
        "tags": sorted(row.name for row in post.tags.all()),
        "byline": post.byline.name if post.byline else "",
    }


def values_of_draft(draft: Draft) -> dict[str, Any]:
    """Return the values that a draft wants of its post, without state and address, which stay."""
    return {
        "title": draft.title,
        "excerpt": draft.excerpt,
        "body": draft.body,
        "description": draft.description[:500],
        "lead_url": draft.lead.url[:4000] if draft.lead else "",
        "lead_alt": draft.lead.alt if draft.lead else "",
        "spare_leads": [{"url": spare.url[:4000], "alt": spare.alt} for spare in draft.spare_leads],
        "fields": [
            {"name": field.name, "label": field.label, "type": field.type.value, "value": field.value}
            for field in draft.fields
        ],
        "categories": [*draft.categories[:1], *sorted(draft.categories[1:])],
        "tags": sorted(set(draft.tags)),
        "byline": draft.byline,
        "kind": draft.kind,
        "language": draft.language[:35],
        "attribution": draft.attribution,
        "canonical": draft.canonical[:4000],
        "copies_pictures": draft.copies_pictures,
        "copies_recordings_mb": draft.copies_recordings_mb,
        "date": draft.date.isoformat(),
    }


def locked(blog: int, numbers: Collection[int]) -> list[Post]:
    """Return posts of a blog with their rows locked.

    The blog's turn is taken first, so that runs wait.
    """
    take_turn(blog)
    return for_writing(Post.objects.filter(blog=blog, pk__in=list(numbers)))


def standing(values: Values) -> bool:
    """Whether a post with these values counts as present."""
    return values["state"] != PostState.BINNED.value or bool(values["marker"])


def write_values(change: Change, posts: Sequence[Post], wanted: Mapping[int, Values], *, now: datetime) -> list[Post]:
    """Write new values of locked posts with their former values.

    Return those of the posts that changed. Their editions move along with them. Addresses stay unique: one taken
    meanwhile gets a number. A post that would be the second of its campaign and item stays unchanged. Call it in the
    transaction that locked the rows.
    """
    along = editions_along(change, posts, wanted, now=now)
    wanted_of_all = {**wanted, **{edition.pk: values for edition, values in along.items()}}
    changed = _write_all(change, [*posts, *along], wanted_of_all, now=now)
    asked = {post.pk for post in posts}
    return [post for post in changed if post.pk in asked]


def _write_all(change: Change, posts: Sequence[Post], wanted: Mapping[int, Values], *, now: datetime) -> list[Post]:
    current = {post.pk: values_of(post) for post in posts}
    differing = {
        post.pk: {name: value for name, value in wanted.get(post.pk, {}).items() if current[post.pk][name] != value}
        for post in posts
    }
    changing = [post for post in posts if differing[post.pk]]
    if any(_NEEDS_ROOM & differing[post.pk].keys() for post in changing):
        changing = _with_room(changing, current, differing)
    _write(change.blog, changing, differing, now=now)
    records = [
        PostChange(
            change=change,
            post=post,
            version=post.version,
            before={name: current[post.pk][name] for name in differing[post.pk]},
            after=differing[post.pk],
        )
        for post in changing
    ]
    PostChange.objects.bulk_create(records)
    ask_for_copies(change.blog, [post for post in changing if _SHOWS & differing[post.pk].keys()], now=now)
    return changing


def _with_room(
    posts: Sequence[Post], current: Mapping[int, Values], differing: dict[int, dict[str, Any]]
) -> list[Post]:
    """Leave out posts whose slot another post has taken, and give the others free addresses."""
    coming = [
        post
        for post in posts
        if not standing(current[post.pk]) and standing({**current[post.pk], **differing[post.pk]})
    ]
    pairs = [Q(campaign=post.campaign_id, item=post.item_id) for post in coming if post.item_id]
    taken: set[tuple[int | None, int | None]] = set()
    if pairs:
        anyone = pairs[0]
        for pair in pairs[1:]:
            anyone |= pair
        taken = set(Post.objects.filter(STANDS).filter(anyone).values_list("campaign", "item"))
    kept = [post for post in posts if post not in coming or (post.campaign_id, post.item_id) not in taken]
    wanting = [post for post in kept if post in coming or "slug" in differing[post.pk]]
    slugs = {post.pk: differing[post.pk].get("slug", post.slug) for post in wanting}
    used = _slugs_of_others(posts[0].blog, slugs) if slugs else set()
    for post in wanting:
        slug = slugs[post.pk]
        if slug in used:
            near = {f"{slug}-{number}" for number in range(2, 200)}
            slug = differing[post.pk]["slug"] = unused(slug, used | slugs_in_use(post.blog, near))
        used.add(slug)
    return kept


def _slugs_of_others(blog: Blog, slugs: Mapping[int, str]) -> set[str]:
    standing_there = Post.objects.filter(STANDS, blog=blog, slug__in=list(slugs.values())).exclude(pk__in=list(slugs))
    return set(standing_there.values_list("slug", flat=True))


def _write(blog: Blog, posts: Sequence[Post], differing: Mapping[int, Values], *, now: datetime) -> None:
    touched = {name for post in posts for name in differing[post.pk]}
    categories = categories_named(blog, _names(posts, differing, "categories"))
    tags = tags_named(blog, _names(posts, differing, "tags"))
    bylines = bylines_named(blog, {name for post in posts if (name := differing[post.pk].get("byline"))})
    columns = {"version", "changed_at"}
    for post in posts:
        values = differing[post.pk]
        post.version, post.changed_at = post.version + 1, now
        _keep_former_address(post, values)
        for name, value in values.items():
            if name in _TIMES:
                setattr(post, name, datetime.fromisoformat(value) if value else None)
            elif name in _KEPT_AS_THEY_ARE:
                setattr(post, name, value)
        if "byline" in values:
            post.byline = bylines.get(name_key(values["byline"]))
        if "categories" in values:
            post.category = categories.get(name_key(values["categories"][0])) if values["categories"] else None
        if "body" in values:
            post.words = count_words(plain_text(post.body))
    columns |= touched & {*_TIMES, *_KEPT_AS_THEY_ARE, "byline"}
    columns |= {"category"} if "categories" in touched else set()
    columns |= {"words"} if "body" in touched else set()
    columns = {"revision" if name == "revision_id" else name for name in columns}
    Post.objects.bulk_update(posts, sorted(columns), batch_size=100)
    _relate(Post.categories.through, "category_id", posts, differing, "categories", categories)
    _relate(Post.tags.through, "tag_id", posts, differing, "tags", tags)


def _names(posts: Sequence[Post], differing: Mapping[int, Values], part: str) -> set[str]:
    return {name for post in posts for name in differing[post.pk].get(part, ())}


def _relate(
    through: Any,  # noqa: ANN401 - the table between two others has no type of its own
    column: str,
    posts: Sequence[Post],
    differing: Mapping[int, Values],
    part: str,
    rows: Mapping[str, Any],
) -> None:
    changing = [post for post in posts if part in differing[post.pk]]
    if not changing:
        return
    through.objects.filter(post__in=[post.pk for post in changing]).delete()
    pairs = {(post.pk, rows[name_key(name)].pk) for post in changing for name in differing[post.pk][part]}
    through.objects.bulk_create([through(post_id=post, **{column: row}) for post, row in sorted(pairs)])
    for post in changing:
        # The prefetched rows are out of date.
        post._prefetched_objects_cache.pop(part, None)  # type: ignore[attr-defined]  # noqa: SLF001


def _keep_former_address(post: Post, values: Values) -> None:
    """Make the former address of a post redirect to it, where readers have seen it there."""
    slug = values.get("slug")
    if slug is None:
        return
    FormerAddress.objects.filter(blog=post.blog_id, slug=slug).delete()
    if post.out_at is not None:
        FormerAddress.objects.update_or_create(blog_id=post.blog_id, slug=post.slug, defaults={"post": post})


def ask_for_copies(blog: Blog, posts: Iterable[Post], *, now: datetime) -> None:
    """Queue copies of the media of posts. Call it in the transaction that writes them."""
    shown = {post: media_of(post.body) for post in posts if post.copies_pictures or post.copies_recordings_mb}
    pictures = [(post.pk, _pictures(post, urls)) for post, (urls, _) in shown.items() if post.copies_pictures]
    ask_for_pictures(blog, pictures, now=now)
    for megabytes in sorted({post.copies_recordings_mb for post in shown if post.copies_recordings_mb}):
        remaining = [
            (post.pk, [*urls, *_sounds(post)])
            for post, (_, urls) in shown.items()
            if post.copies_recordings_mb == megabytes
        ]
        ask_for_recordings(blog, remaining, most_bytes=megabytes << 20, now=now)


def _sounds(post: Post) -> list[str]:
    """Return the sound of an episode, which its page plays."""
    media = post.item.media if post.item else []
    sounds = [medium["url"] for medium in media if medium["kind"] == MediaKind.SOUND.value]
    return [url for url in sounds if url.startswith(("http://", "https://"))]


def _pictures(post: Post, in_body: Sequence[str]) -> list[str]:
    leads = [post.lead_url, *(spare["url"] for spare in post.spare_leads)]
    return list(dict.fromkeys([url for url in leads if url.startswith(("http://", "https://"))] + [*in_body]))
