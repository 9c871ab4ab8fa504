"""Reads about categories, tags and bylines."""

from enum import StrEnum
from typing import Any, TypeAlias

from django.db.models import Count, OuterRef, QuerySet, Subquery
from django.db.models.functions import Coalesce

from glyptarch_server.blogs.models import Blog, Byline, Category, NameKind, Tag
from glyptarch_server.common.problems import NotFound
from glyptarch_server.posts.models import Post

__all__ = ["NameKind", "NameSort", "Named", "category_of", "listed_names", "model_of", "name_of", "name_out_of"]

Named: TypeAlias = Category | Tag | Byline
_MODELS: dict[NameKind, type[Category] | type[Tag] | type[Byline]] = {
    NameKind.CATEGORY: Category,
    NameKind.TAG: Tag,
    NameKind.BYLINE: Byline,
}


def model_of(kind: NameKind) -> type[Category] | type[Tag] | type[Byline]:
    """Return the model of a kind of names."""
    return _MODELS[kind]


def _filed(kind: NameKind) -> QuerySet[Any]:
    """Count the posts that have the name of the outer query."""
    rows: QuerySet[Any] = Post.objects.filter(byline=OuterRef("pk")).values("byline")
    if kind is NameKind.CATEGORY:
        rows = Post.categories.through.objects.filter(category=OuterRef("pk")).values("category")
    elif kind is NameKind.TAG:
        rows = Post.tags.through.objects.filter(tag=OuterRef("pk")).values("tag")
    counted: QuerySet[Any] = rows.annotate(number=Count("*")).values("number")
    return counted


class NameSort(StrEnum):
    """In which order names are listed: by name, most posts first, or fewest posts first."""

    NAME = "name"
    POSTS = "posts"
    UNUSED = "unused"


_ORDERS = {NameSort.NAME: ("name", "pk"), NameSort.POSTS: ("-borne_by", "name"), NameSort.UNUSED: ("borne_by", "name")}


def listed_names(blog: Blog, kind: NameKind, *, search: str = "", sort: NameSort = NameSort.NAME) -> QuerySet[Named]:
    """Return names of one kind in an order, with the number of posts in ``borne_by``."""
    rows: QuerySet[Any] = model_of(kind).objects.filter(blog=blog)
    if search:
        rows = rows.filter(name__icontains=search)
    listed: QuerySet[Named] = rows.annotate(borne_by=Coalesce(Subquery(_filed(kind)), 0)).order_by(*_ORDERS[sort])
    return listed


def name_of(blog: Blog, kind: NameKind, number: int) -> Named:
    """Return one name. Raises NotFound."""
    row: Named | None = model_of(kind).objects.filter(blog=blog, pk=number).first()
    if row is None:
        raise NotFound(f"The blog has no such {kind.label.lower()}. It may have been removed.")
    return row


def name_out_of(blog: Blog, kind: NameKind, number: int) -> Named:
    """Return one name with its number of posts. Raises NotFound."""
    row = listed_names(blog, kind).filter(pk=number).first()
    if row is None:
        raise NotFound(f"The blog has no such {kind.label.lower()}. It may have been removed.")
    return row


def category_of(blog: Blog, number: int) -> Category:
    """Return one category. Raises NotFound."""
    category = Category.objects.filter(blog=blog, pk=number).select_related("parent").first()
    if category is None:
        raise NotFound("The blog has no such category. It may have been removed.")
    return category
