"""Queries of editions, and what one of them is made of."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db.models import Count, F, Q, QuerySet
from glyptarch_core.draft import FieldType
from glyptarch_core.editions import BlogLanguage, EditionPlan, EditionTexts, fixed_words, languages_of
from glyptarch_core.item import Right
from glyptarch_core.language_services import FixedWord
from glyptarch_core.languages import base_language

from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import tables_by_key
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.editions.lifecycle import EditionState
from glyptarch_server.editions.models import Edition
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.queries import post_of
from glyptarch_server.services.queries import KeptTexts, TextsCost, costs_of

__all__ = [
    "FIELD_TEXTS",
    "MOST_AT_ONCE",
    "behind_by_themselves",
    "blogs_with_work",
    "cost_of",
    "counts_of",
    "edition_of_post",
    "editions_of_post",
    "glossary_of",
    "language_named",
    "may_have",
    "next_to_make",
    "original_of",
    "originals_to_make",
    "plan_of",
    "source_language",
    "texts_of_post",
    "there_already",
    "unsettled",
]

READY = Q(original__state__in=[PostState.PUBLISHED.value, PostState.SCHEDULED.value]) | Q(
    together=True, original__state=PostState.HELD.value
)
"""Editions whose original is out, will be, or waits for them: before that nothing is asked for, and nothing paid."""

FIELD_TEXTS = frozenset({FieldType.TEXT.value})
MOST_AT_ONCE = 5_000
"""How many posts get editions by one request."""
_MOST = 50
_COSTED = 200
_MOST_BEHIND = 10_000


def source_language(post: Post) -> str:
    """Return the language of a post (BCP 47)."""
    return post.language or post.blog.language


def may_have(post: Post, language: str) -> bool:
    """Whether a post may have an edition in a language.

    Not where its source allows to link only, where the post is in that language already, or is an edition itself.
    """
    links_only = post.source is not None and post.source.right == Right.LINK.value
    same = base_language(source_language(post)) == base_language(language)
    return not (links_only or same or post.edition_of_id is not None)


def language_named(blog: Blog, tag: str) -> BlogLanguage:
    """Return a language of a blog beside its usual one. Raises NotFound."""
    found = languages_of(blog.languages).named(tag)
    if found is None:
        raise NotFound(f"The blog has no language “{tag}” beside its usual one. Settings, Languages adds it.")
    return found


def glossary_of(blog: Blog, language: BlogLanguage) -> list[FixedWord]:
    """Return the terms that stay, or have one translation, in a language."""
    if not language.glossary:
        return []
    tables = tables_by_key(blog.pk)
    return [fixed_words(row.what, row.by) for key in language.glossary for row in tables.get(key, ())]


def texts_of_post(post: Post) -> EditionTexts:
    """Return the texts of a post that its editions have in their own language."""
    fields: Sequence[Mapping[str, Any]] = post.fields
    return EditionTexts(
        title=post.title,
        body=post.body,
        excerpt=post.excerpt,
        description=post.description,
        lead_alt=post.lead_alt,
        labels=tuple(field["label"] for field in fields),
        values=tuple(field["value"] if field["type"] in FIELD_TEXTS else "" for field in fields),
    )


def plan_of(post: Post, language: BlogLanguage, glossary: Sequence[FixedWord]) -> EditionPlan:
    """Return what is asked for an edition of a post in a language."""
    return EditionPlan(
        texts_of_post(post),
        services=language.services,
        source=source_language(post),
        target=language.tag,
        glossary=glossary,
    )


def original_of(blog: Blog, number: int) -> Post:
    """Return a post that may have editions.

    Raises NotFound for an edition, and where there is none.
    """
    post = post_of(blog, number)
    if post.edition_of_id is not None:
        raise NotFound(f"“{post.title}” is an edition itself. Ask for those of its original.")
    return Post.objects.select_related("blog", "source", "category").defer("found_by").get(pk=post.pk)


def cost_of(blog: Blog, numbers: Collection[int], language: str) -> tuple[int, int, list[TextsCost]]:
    """Return how many posts would get an edition, the characters of these, and their cost.

    The cost is that of at most 200 posts; of more it is said by their share. What the text memory has costs nothing.
    """
    chosen = language_named(blog, language)
    posts = originals_to_make(blog, list(numbers)[:MOST_AT_ONCE], language)
    if not chosen.services or not posts:
        return len(posts), 0, []
    looked_at = list(Post.objects.filter(pk__in=[post.pk for post in posts[:_COSTED]]).select_related("blog", "source"))
    glossary = glossary_of(blog, chosen)
    asks = {ask.key: ask for post in looked_at for ask in plan_of(post, chosen, glossary).asks}
    known = KeptTexts(blog.pk).known(list(asks.values()))
    unknown = [ask for key, ask in asks.items() if key not in known]
    share = len(posts) / len(looked_at)
    costs = [cost.times(share) for cost in costs_of(blog.pk, unknown)]
    return len(posts), sum(cost.characters for cost in costs), costs


def editions_of_post(post: Post) -> list[Edition]:
    """Return the editions of a post, by language."""
    return list(Edition.objects.filter(original=post).select_related("post").order_by("language")[:_MOST])


def edition_of_post(post: Post, language: str) -> Edition:
    """Return the edition of a post in a language. Raises NotFound."""
    row = Edition.objects.filter(original=post, language=language).select_related("post", "blog").first()
    if row is None:
        raise NotFound(f"“{post.title}” has no edition in “{language}”.")
    return row


def next_to_make(blog_id: int, after: int, most: int) -> list[Edition]:
    """Return the next editions of a blog that are to be made, in the order of asking."""
    rows = Edition.objects.filter(READY, blog=blog_id, pk__gt=after)
    rows = rows.filter(state__in=[EditionState.WANTED.value, EditionState.WAITS.value])
    joined = rows.select_related("original__blog", "original__source", "post").defer("original__found_by")
    return list(joined.order_by("pk")[:most])


def unsettled(blog_id: int) -> QuerySet[Edition]:
    """Return the editions of a blog that are to be made."""
    states = [EditionState.WANTED.value, EditionState.WAITS.value]
    return Edition.objects.filter(READY, blog=blog_id, state__in=states)


def behind_by_themselves(since: datetime) -> list[int]:
    """Return the editions that are to follow originals changed since some moment.

    Not those that people have edited, and none that is off the blog.
    """
    changed = Edition.objects.filter(
        state=EditionState.MADE.value,
        original__changed_at__gte=since,
        original__version__gt=F("version"),
        post__edited=[],
        blog__removed_at=None,
    )
    rows = changed.exclude(post__state__in=NO_LONGER).exclude(original__state__in=NO_LONGER)
    found = rows.values_list("pk", "language", "blog", "blog__languages")[:_MOST_BEHIND]
    follows = {
        (blog, language.tag)
        for blog, stored in {blog: stored for _, _, blog, stored in found}.items()
        for language in languages_of(stored).languages
        if language.follows
    }
    return [number for number, language, blog, _ in found if (blog, language) in follows]


def blogs_with_work() -> list[int]:
    """Return the blogs with editions that are wanted."""
    rows = Edition.objects.filter(READY, state=EditionState.WANTED.value, blog__removed_at=None)
    return sorted(rows.order_by().values_list("blog", flat=True).distinct())


def originals_to_make(blog: Blog, numbers: Collection[int], language: str) -> list[Post]:
    """Return those of some posts that may have an edition in a language and have none."""
    rows = Post.objects.filter(AnyOf("pk", numbers), blog=blog, edition_of=None).exclude(state__in=NO_LONGER)
    rows = rows.exclude(wanted_editions__language=language).select_related("source", "blog")
    return [post for post in rows.defer("found_by", "body") if may_have(post, language)]


def there_already(originals: Collection[int]) -> set[tuple[int, str]]:
    """Return the originals and languages of the editions that posts have, in any state."""
    return set(Edition.objects.filter(AnyOf("original_id", originals)).values_list("original", "language"))


def counts_of(blog: Blog) -> dict[str, dict[str, int]]:
    """Return the numbers of editions by language and state."""
    counted = Edition.objects.filter(blog=blog).values_list("language", "state").annotate(number=Count("*"))
    found: dict[str, dict[str, int]] = {}
    for language, state, number in counted:
        found.setdefault(language, {})[state] = number
    return found
