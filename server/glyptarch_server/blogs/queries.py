"""Reads about blogs, and the one check of rights."""

from collections.abc import Sequence

from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import AnonymousUser

from glyptarch_server.blogs.models import Blog, Byline, Category, Membership, Role, Tag, WordList
from glyptarch_server.common.problems import Forbidden, NotFound

__all__ = [
    "Role",
    "blog_for",
    "blogs_of",
    "bylines_of",
    "categories_of",
    "public_blog",
    "tags_of",
    "word_list_of",
    "word_lists_of",
    "words_by_key",
]

Person = AbstractBaseUser | AnonymousUser


def blog_for(user: Person, slug: str, role: Role = Role.EDITOR) -> Blog:
    """Give the blog if this person has at least this role on it.

    Raises NotFound where the person is no member (what one may not see does not exist), and
    Forbidden where the role is not enough.
    """
    membership = Membership.objects.select_related("blog").filter(user=user.pk or 0, blog__slug=slug).first()
    if membership is None:
        raise NotFound(f"You have no blog named “{slug}”.")
    if role is Role.OWNER and membership.role != Role.OWNER:
        raise Forbidden("Only an owner of the blog may do this. Ask one to do it, or to make you an owner.")
    return membership.blog


def blogs_of(user: Person) -> Sequence[Membership]:
    """Give the memberships of a person, by title of the blog."""
    return list(Membership.objects.select_related("blog").filter(user=user.pk or 0).order_by("blog__title")[:200])


def public_blog(slug: str) -> Blog | None:
    """Give a blog as any reader may see it."""
    return Blog.objects.filter(slug=slug).first()


def categories_of(blog: Blog) -> Sequence[Category]:
    """Give the categories of a blog by name."""
    return list(Category.objects.filter(blog=blog).order_by("name")[:500])


def tags_of(blog: Blog) -> Sequence[Tag]:
    """Give the tags of a blog by name."""
    return list(Tag.objects.filter(blog=blog).order_by("name")[:1000])


def bylines_of(blog: Blog) -> Sequence[Byline]:
    """Give the bylines of a blog by name."""
    return list(Byline.objects.filter(blog=blog).order_by("name")[:500])


def word_lists_of(blog: Blog) -> list[WordList]:
    """Give the word lists of a blog by name."""
    return list(WordList.objects.filter(blog=blog).order_by("name", "key")[:200])


def word_list_of(blog: Blog, key: str) -> WordList:
    """Give one word list. Raises NotFound."""
    found = WordList.objects.filter(blog=blog, key=key).first()
    if found is None:
        raise NotFound(f"This blog has no word list named “{key}”.")
    return found


def words_by_key(blog_id: int) -> dict[str, tuple[str, ...]]:
    """Give every word list of a blog as the core takes them."""
    rows = WordList.objects.filter(blog=blog_id).values_list("key", "words")
    return {key: tuple(words) for key, words in rows}
