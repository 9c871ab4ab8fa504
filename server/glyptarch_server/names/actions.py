"""Renaming categories, tags and bylines, putting categories under others, and merging two."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from django.db import IntegrityError, transaction
from glyptarch_core.text import name_key

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import bylines_named, categories_named, tags_named
from glyptarch_server.blogs.models import Blog, Category, FormerName, NameKind
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.names.queries import Named, model_of, name_of
from glyptarch_server.posts.models import Post

__all__ = ["add_name", "merge", "put_under", "remove_name", "rename"]

_MAKERS: dict[NameKind, Callable[[Blog, Sequence[str]], Mapping[str, Named]]] = {
    NameKind.CATEGORY: categories_named,
    NameKind.TAG: tags_named,
    NameKind.BYLINE: bylines_named,
}


def add_name(blog: Blog, kind: NameKind, name: str) -> Named:
    """Create a category, tag or byline. Raises Conflict where the name exists."""
    if model_of(kind).objects.filter(blog=blog, key=name_key(name)).exists():
        raise Conflict(f"There is a {kind.label.lower()} named “{name}” already.")
    with transaction.atomic():
        FormerName.objects.filter(blog=blog, kind=kind.value, key=name_key(name)).delete()
        row: Named = _MAKERS[kind](blog, [name])[name_key(name)]
        record(f"{kind.value}.added", name, blog=blog.pk)
    return row


def rename(row: Named, kind: NameKind, name: str) -> None:
    """Rename a row. Rules with the old name mean this row.

    Its address stays. Raises Conflict where another row has the name; the two can be merged.
    """
    before, key = row.name, name_key(name)
    old_key = row.key
    try:
        with transaction.atomic():
            row.name, row.key = name, key
            row.save(update_fields=["name", "key"])
            FormerName.objects.filter(blog=row.blog_id, kind=kind.value, key=key).delete()
            if old_key != key:
                _remember(row.blog_id, kind, old_key, row.pk)
            record(f"{kind.value}.renamed", name, blog=row.blog_id, before=before, after=name)
    except IntegrityError as error:
        raise Conflict(f"There is a {kind.label.lower()} named “{name}” already. Merge the two.") from error


def _remember(blog: int, kind: NameKind, key: str, target: int) -> None:
    FormerName.objects.update_or_create(blog_id=blog, kind=kind.value, key=key, defaults={"target": target})


def put_under(row: Category, parent: Category | None) -> None:
    """Move a category below another one, or to the top. Raises Invalid for a cycle."""
    above, seen = parent, set[int]()
    while above is not None and above.pk not in seen:
        if above.pk == row.pk:
            raise Invalid(f"“{row.name}” cannot be its own parent.")
        seen.add(above.pk)
        above = above.parent
    before = row.parent.name if row.parent else None
    row.parent = parent
    with transaction.atomic():
        row.save(update_fields=["parent"])
        after = parent.name if parent else None
        record("category.put_under", row.name, blog=row.blog_id, before=before, after=after)


def merge(row: Named, kind: NameKind, into: int) -> Named:
    """Merge one row into another, with its posts and the rules that name it.

    Raises Invalid, NotFound.
    """
    if row.pk == into:
        raise Invalid("Choose another one to merge it into.")
    blog = row.blog
    with transaction.atomic():
        # Rows are locked in order, so that two concurrent merges do not deadlock.
        list(model_of(kind).objects.select_for_update().filter(pk__in=[row.pk, into]).order_by("pk"))
        target = name_of(blog, kind, into)
        row = name_of(blog, kind, row.pk)
        moved = _move_posts(row, target, kind)
        FormerName.objects.filter(kind=kind.value, target=row.pk).update(target=target.pk)
        _remember(blog.pk, kind, row.key, target.pk)
        record(f"{kind.value}.merged", target.name, blog=blog.pk, before=row.name, after={"posts": moved})
        row.delete()
    return target


def _move_posts(row: Named, target: Named, kind: NameKind) -> int:
    if kind is NameKind.BYLINE:
        return Post.objects.filter(byline=row.pk).update(byline=target.pk)
    through: Any = Post.categories.through if kind is NameKind.CATEGORY else Post.tags.through
    column = kind.value
    both = through.objects.filter(**{f"{column}_id": target.pk}).values("post")
    links = through.objects.filter(**{f"{column}_id": row.pk})
    links.filter(post__in=both).delete()
    moved = links.update(**{f"{column}_id": target.pk})
    if isinstance(row, Category) and isinstance(target, Category):
        Post.objects.filter(category=row.pk).update(category=target.pk)
        parent = target.parent_id if target.parent_id != row.pk else row.parent_id
        Category.objects.filter(parent=row.pk).exclude(pk=target.pk).update(parent=target.pk)
        Category.objects.filter(pk=target.pk).update(parent=None if parent == target.pk else parent)
    return int(moved)


def remove_name(row: Named, kind: NameKind) -> None:
    """Remove an unused row. Raises Conflict where posts use it.

    It can be merged.
    """
    used = {
        NameKind.CATEGORY: Post.objects.filter(categories=row.pk),
        NameKind.TAG: Post.objects.filter(tags=row.pk),
        NameKind.BYLINE: Post.objects.filter(byline=row.pk),
    }[kind]
    if used.exists():
        raise Conflict(f"Posts have “{row.name}”. Merge it into another {kind.label.lower()} instead.")
    with transaction.atomic():
        record(f"{kind.value}.removed", row.name, blog=row.blog_id)
        FormerName.objects.filter(kind=kind.value, target=row.pk).delete()
        row.delete()
