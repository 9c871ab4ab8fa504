"""Wanting editions, and writing them."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import prefetch_related_objects
from glyptarch_core.editions import BlogLanguage, EditionTexts, LanguageDocument, MadeEdition, languages_of
from glyptarch_core.languages import base_language
from glyptarch_core.release import EditionMode
from glyptarch_core.text import count_words, name_key, plain_text, slugify, unused

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import categories_named, tags_named
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import tables_by_key
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.versions import lock_version
from glyptarch_server.editions import queries
from glyptarch_server.editions.lifecycle import EditionState
from glyptarch_server.editions.models import Edition
from glyptarch_server.posts.changes import Action, change_now
from glyptarch_server.posts.changing import ask_for_copies, locked
from glyptarch_server.posts.following import moved
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.queries import slugs_in_use
from glyptarch_server.services.queries import services_by_key
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.queries import active_task, has_failed_since

__all__ = [
    "TASK",
    "begin_due",
    "begin_making",
    "fail",
    "let_go_out",
    "make_anew",
    "note_waiting",
    "put",
    "save_languages",
    "want",
    "want_for_posts",
]

TASK = "editions"
"""The kind of the task that makes editions. Its row is the blog."""
_SUBJECT = "Editions"
_AT_ONCE = 1000
_BEHIND_SINCE = timedelta(days=1)
_AGAIN_AFTER = timedelta(minutes=15)


def save_languages(blog: Blog, document: LanguageDocument, *, begun: int | None) -> None:
    """Save the languages of a blog.

    Raises Invalid for its usual language, or a service or table that it has not; Conflict where somebody has changed
    the blog's settings since.
    """
    _check_languages(blog, document)
    before = blog.languages
    after: dict[str, Any] = document.model_dump(mode="json", exclude_defaults=True)
    with transaction.atomic():
        lock_version(blog, begun, blog.title)
        blog.languages = after
        blog.save(update_fields=["languages", "version"])
        record("languages.changed", blog.title, blog=blog.pk, before=before, after=after)


def _check_languages(blog: Blog, document: LanguageDocument) -> None:
    services, tables = services_by_key(blog.pk), tables_by_key(blog.pk)
    for language in document.languages:
        if base_language(language.tag) == base_language(blog.language):
            raise Invalid(f"“{language.tag}” is the usual language of the blog. Name other ones here.")
        missing = next((key for key in language.services if key not in services), None)
        if missing:
            raise Invalid(f"The blog has no language service “{missing}”. Settings, Language services adds it.")
        wanted = [*language.glossary, *([language.names] if language.names else [])]
        table = next((key for key in wanted if key not in tables), None)
        if table:
            raise Invalid(f"The blog has no table “{table}”. Library, Word lists and tables adds it.")


def want(
    blog: Blog,
    posts: Iterable[Post],
    modes: Mapping[str, EditionMode],
    *,
    together: bool = False,
    now: datetime,
) -> int:
    """Put editions on record that posts have not yet, and begin the task that makes them.

    ``modes`` are those of each language. What may have none is left out. Return how many are wanted.
    """
    known = {language.tag for language in languages_of(blog.languages).languages}
    candidates = list(posts)
    # Their rights are asked for once for all.
    prefetch_related_objects(candidates, "source")
    wanted = [
        (post, language)
        for post in candidates
        for language in modes
        if language in known and queries.may_have(post, language)
    ]
    there = queries.there_already([post.pk for post, _ in wanted])
    rows = [
        Edition(
            blog=blog, original=post, language=language, mode=modes[language].value, together=together, asked_at=now
        )
        for post, language in wanted
        if (post.pk, language) not in there
    ]
    Edition.objects.bulk_create(rows, batch_size=_AT_ONCE, ignore_conflicts=True)
    if rows:
        begin_making(blog.pk, now=now)
    return len(rows)


def want_for_posts(blog: Blog, numbers: Collection[int], language: str, mode: EditionMode, *, now: datetime) -> int:
    """Want an edition of each of some posts, as a person asks for it.

    Return how many are wanted.

    Raises NotFound where the blog has no such language, Invalid where no service makes its editions.
    """
    chosen = queries.language_named(blog, language)
    if not chosen.services:
        raise Invalid("Choose a language service for this language first: Settings, Languages.")
    wanted = list(numbers)
    if len(wanted) > queries.MOST_AT_ONCE:
        raise Invalid(f"Choose at most {queries.MOST_AT_ONCE:,} posts at once, for example those of a month.")
    total = 0
    with transaction.atomic():
        for first in range(0, len(wanted), _AT_ONCE):
            posts = queries.originals_to_make(blog, wanted[first : first + _AT_ONCE], language)
            total += want(blog, posts, {chosen.tag: mode}, now=now)
        record("editions.wanted", blog.title, blog=blog.pk, after={"language": chosen.tag, "posts": total})
    return total


def make_anew(row: Edition, *, now: datetime) -> None:
    """Make an edition again from its original as it is now.

    Raises Conflict where one of them is off the blog.
    """
    with transaction.atomic():
        locked_row = Edition.objects.select_for_update(of=("self",)).select_related("original", "post").get(pk=row.pk)
        if locked_row.original.state in NO_LONGER:
            raise Conflict(f"“{locked_row.original.title}” is off the blog. Bring it back first.")
        if locked_row.post is not None and locked_row.post.state in NO_LONGER:
            raise Conflict(f"“{locked_row.post.title}” is off the blog. Bring it back first.")
        locked_row.state, locked_row.asked_at, locked_row.faults = EditionState.WANTED.value, now, []
        locked_row.save(update_fields=["state", "asked_at", "faults"])
        record("editions.anew", locked_row.original.title, blog=locked_row.blog_id, after=locked_row.language)
        begin_making(locked_row.blog_id, now=now)


def begin_making(blog_id: int, *, now: datetime) -> None:
    """Begin the task that makes the editions of a blog.

    One that is under way takes them as well.
    """
    if active_task(TASK, blog_id) is None and queries.unsettled(blog_id).exists():
        begin_task(TASK, blog_id, blog_id=blog_id, subject=_SUBJECT, now=now, path="posts")


def begin_due(*, now: datetime) -> None:
    """Begin the tasks of blogs with editions to make.

    Those of what has gone out or has changed, and those that have waited for texts for long.
    """
    behind = queries.behind_by_themselves(now - _BEHIND_SINCE)
    Edition.objects.filter(pk__in=behind).update(state=EditionState.WANTED.value, asked_at=now)
    waited = Edition.objects.filter(state=EditionState.WAITS.value, asked_at__lte=now - _AGAIN_AFTER)
    waited.update(state=EditionState.WANTED.value, asked_at=now)
    for blog_id in queries.blogs_with_work():
        if not has_failed_since(TASK, blog_id, now - _AGAIN_AFTER):
            with transaction.atomic():
                begin_making(blog_id, now=now)


def note_waiting(rows: Sequence[Edition], *, now: datetime) -> None:
    """Note that editions wait for texts that were asked for now."""
    for row in rows:
        row.state, row.asked_at = EditionState.WAITS.value, now
    Edition.objects.bulk_update(rows, ["state", "asked_at"], batch_size=_AT_ONCE)


def fail(rows: Sequence[Edition], why: str) -> None:
    """Note that editions cannot be made, for a reason (code)."""
    for row in rows:
        row.state, row.faults = EditionState.FAILED.value, [[why, ""]]
    Edition.objects.bulk_update(rows, ["state", "faults"], batch_size=_AT_ONCE)


def put(row: Edition, edition: MadeEdition, language: BlogLanguage, *, now: datetime) -> bool:
    """Write an edition of its original. Return whether it could be done.

    Not where the original has changed meanwhile, or may have none any more. Call it in a transaction that holds the
    blog's turn.
    """
    kept = Edition.objects.select_for_update(of=("self",)).filter(pk=row.pk).first()
    original = next(iter(locked(row.blog_id, [row.original_id])), None)
    if kept is None or original is None or original.version != row.original.version:
        return False
    if original.state in NO_LONGER or not queries.may_have(original, row.language):
        return False
    values = _values(original, edition.texts, language)
    if kept.post_id is None:
        kept.post = _make_post(kept, original, values, has_faults=bool(edition.faults), now=now)
    else:
        post = _write_over(kept.post_id, original.blog, values, now=now)
        Post.objects.filter(pk=post.pk).update(goes_along=kept.mode == EditionMode.PUBLISH.value and not edition.faults)
    kept.state, kept.made_at, kept.version = EditionState.MADE.value, now, original.version
    kept.digests = [block.digest for block in edition.blocks]
    kept.faults = [[fault, text[:300]] for fault, text in edition.faults[:50]]
    kept.save(update_fields=["state", "made_at", "version", "digests", "faults", "post"])
    return True


def _values(original: Post, texts: EditionTexts, language: BlogLanguage) -> dict[str, Any]:
    """Return the values of an edition: its own texts and names, and all else as in the original."""
    fields = [
        {**field, "label": label, **({"value": value} if field["type"] in queries.FIELD_TEXTS else {})}
        for field, label, value in zip(original.fields, texts.labels, texts.values, strict=True)
    ]
    names = _names_in(original.blog, language)
    main = original.category.name if original.category else ""
    others = sorted(row.name for row in original.categories.all() if row.name != main)
    return {
        "title": texts.title[:300] or original.title,
        "body": texts.body,
        "excerpt": texts.excerpt,
        "description": texts.description[:500],
        "lead_url": original.lead_url,
        "lead_alt": texts.lead_alt[:300],
        "spare_leads": original.spare_leads,
        "fields": fields,
        "categories": [names.get(name_key(name), name) for name in ([main] if main else []) + others],
        "tags": sorted({names.get(name_key(row.name), row.name) for row in original.tags.all()}),
        "attribution": original.attribution,
        "copies_pictures": original.copies_pictures,
        "copies_recordings_mb": original.copies_recordings_mb,
    }


def _names_in(blog: Blog, language: BlogLanguage) -> dict[str, str]:
    """Return the names of categories and tags in a language, by the key of the usual name."""
    if language.names is None:
        return {}
    rows = tables_by_key(blog.pk).get(language.names, ())
    return {name_key(form): row.by.split("/")[0].strip() for row in rows if row.by for form in row.what.split("/")}


def _write_over(number: int, blog: Blog, values: Mapping[str, Any], *, now: datetime) -> Post:
    """Write an edition over the one that is there, as a change that can be taken back."""
    (post,) = locked(blog.pk, [number])
    wanted = {**values, "edited": []}
    return change_now(blog, Action.EDITION, post.pk, wanted, subject=post.title, what={}, now=now)


def _make_post(row: Edition, original: Post, values: Mapping[str, Any], *, has_faults: bool, now: datetime) -> Post:
    blog = original.blog
    goes_along = row.mode == EditionMode.PUBLISH.value and not has_faults
    state = PostState(original.state) if goes_along else PostState.HELD
    base = slugify(values["title"]) or f"{original.slug}-{row.language.lower()}"
    near = {base, *(f"{base}-{number}" for number in range(2, 200))}
    categories = categories_named(blog, values["categories"])
    tags = tags_named(blog, values["tags"])
    main = categories.get(name_key(values["categories"][0])) if values["categories"] else None
    post = Post.objects.create(
        **{name: value for name, value in values.items() if name not in {"categories", "tags"}},
        blog=blog,
        edition_of=original,
        source=original.source,
        goes_along=goes_along,
        state=state.value,
        slug=unused(base, slugs_in_use(blog, near)),
        category=main,
        byline=original.byline,
        link=original.link,
        language=row.language,
        kind=original.kind,
        comments=original.comments,
        pinned=original.pinned,
        visibility=original.visibility,
        pass_phrase=original.pass_phrase,
        quiet_goods=original.quiet_goods,
        words=count_words(plain_text(values["body"])),
        date=original.date,
        out_at=now if state is PostState.PUBLISHED else None,
        created_at=now,
        changed_at=now,
    )
    post.categories.set(categories.values())
    post.tags.set(tags.values())
    ask_for_copies(blog, [post], now=now)
    return post


def let_go_out(blog: Blog, numbers: Collection[int], *, now: datetime) -> int:
    """Publish the held posts whose editions are all settled that they waited for.

    Return how many.

    Their editions go along. Call it in a transaction that holds the blog's turn.
    """
    to_make = [EditionState.WANTED.value, EditionState.WAITS.value]
    waiting = Edition.objects.filter(original__in=numbers, together=True, state__in=to_make)
    held = Post.objects.filter(pk__in=numbers, state=PostState.HELD.value, wanted_editions__together=True)
    ready = held.exclude(pk__in=waiting.values("original")).distinct()
    posts = list(ready.values_list("pk", flat=True))
    for post in locked(blog.pk, posts):
        wanted = moved(post, PostState.PUBLISHED, now=now)
        change_now(blog, Action.MOVE, post.pk, wanted, subject=post.title, what={"to": "published"}, now=now)
    Edition.objects.filter(original__in=posts).update(together=False)
    return len(posts)
