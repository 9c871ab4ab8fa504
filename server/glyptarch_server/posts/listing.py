"""The list of posts as a file."""

from collections.abc import AsyncIterator, Collection, Sequence
from typing import TYPE_CHECKING

from asgiref.sync import sync_to_async
from django.http import StreamingHttpResponse

from glyptarch_server.common.csv_file import csv_lines
from glyptarch_server.posts.desk_list import names_filed
from glyptarch_server.posts.queries import posts_numbered

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["csv_of"]

_AT_ONCE = 500
_HEADS = (
    *("number", "state", "title", "address", "date", "category", "tags", "byline", "campaign", "source", "link"),
    *("words", "visibility", "edited"),
)


def csv_of(blog: "Blog", numbers: Collection[int]) -> StreamingHttpResponse:
    """Return posts as CSV (RFC 4180), streamed five hundred at a time."""
    return StreamingHttpResponse(
        _lines(blog, list(numbers)),
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{blog.slug}-posts.csv"'},
    )


async def _lines(blog: "Blog", numbers: Sequence[int]) -> AsyncIterator[bytes]:
    yield csv_lines([_HEADS])
    for first in range(0, len(numbers), _AT_ONCE):
        yield await sync_to_async(_part)(blog, numbers[first : first + _AT_ONCE])


def _part(blog: "Blog", numbers: Sequence[int]) -> bytes:
    posts = posts_numbered(blog, numbers)
    _, tags = names_filed(posts)
    return csv_lines(
        [
            (
                *(str(post.pk), post.state, post.title, post.slug, post.date.isoformat()),
                post.category.name if post.category else "",
                ", ".join(tags[post.pk]),
                post.byline.name if post.byline else "",
                post.campaign.name if post.campaign else "",
                post.source.title if post.source else "",
                *(post.link, str(post.words), post.visibility, " ".join(post.edited)),
            )
            for post in posts
        ]
    )
