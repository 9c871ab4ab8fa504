"""API answers about posts, from rows."""

from typing import TYPE_CHECKING, Any

from glyptarch_core.draft import Visibility
from glyptarch_core.item import Right

from glyptarch_server import wiring
from glyptarch_server.common.problems import Invalid
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts.desk_list import languages_made, names_filed, numbers_of
from glyptarch_server.posts.filters import PostFilter
from glyptarch_server.posts.lifecycle import MOVES, PostState
from glyptarch_server.posts.queries import own_numbers
from glyptarch_server.posts.reads import reads_of
from glyptarch_server.posts.schemas import (
    FilterIn,
    PostOut,
    SelectionIn,
)

if TYPE_CHECKING:
    from collections.abc import Collection, Mapping, Sequence

    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.posts.models import Post

__all__ = ["filter_of", "posts_out", "selected"]


def filter_of(wanted: FilterIn) -> PostFilter:
    """Return the filter of a request."""
    values = wanted.model_dump()
    for name in ("state", "visibility"):
        values[name] = values[name].value if values[name] else ""
    return PostFilter(**values)


def selected(blog: "Blog", selection: SelectionIn) -> "Collection[int]":
    """Return the numbers of the posts that a selection names.

    Raises Invalid for neither or both ways of naming.
    """
    if (selection.ids is None) == (selection.filter is None):
        raise Invalid("Name posts by their numbers, or give a filter: one of the two.")
    if selection.ids is not None:
        return own_numbers(blog, selection.ids)
    return numbers_of(blog, filter_of(selection.filter)) if selection.filter else []


def posts_out(blog: "Blog", rows: "Sequence[Post]") -> list[PostOut]:
    """Return posts for the desk, with the small copies of their pictures."""
    copies = copies_of(blog.pk, {row.lead_url for row in rows if row.copies_pictures})
    categories, tags = names_filed(rows)
    editions = languages_made(rows) if blog.languages else {}
    reads = reads_of(blog, [row.pk for row in rows], today=wiring.clock()().date())
    return [
        _post(
            row,
            copies,
            categories=categories[row.pk],
            tags=tags[row.pk],
            editions=editions.get(row.pk, []),
            reads=reads.get(row.pk, 0),
        )
        for row in rows
    ]


def _post(
    row: "Post",
    copies: "Mapping[str, Any]",
    *,
    categories: list[str],
    tags: list[str],
    editions: list[str],
    reads: int,
) -> PostOut:
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
        categories=categories,
        tags=tags,
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
        comments=row.comment_count,
        reads=reads,
        binned_at=row.binned_at,
        marker=row.marker,
        language=row.language,
        edition_of=row.edition_of_id,
        editions=editions,
    )
