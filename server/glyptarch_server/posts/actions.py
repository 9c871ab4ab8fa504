"""Writing posts, and moving them between states."""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import F
from glyptarch_core.draft import Draft
from glyptarch_core.item import FEATURES_VERSION, Captured
from glyptarch_core.match import keys_of, near_keys
from glyptarch_core.ports import Near
from glyptarch_core.text import CommonShingles, Fingerprint, count_words, name_key, plain_text, slugify, unused
from glyptarch_core.trace import Decision, Verdict

from glyptarch_server.audit.actions import record
from glyptarch_server.audit.queries import last_done
from glyptarch_server.blogs.actions import bylines_named, categories_named, grow_branches, keep_common_text, tags_named
from glyptarch_server.blogs.models import Blog, Category
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Conflict, NotFound
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.changes import Action, change_now
from glyptarch_server.posts.changing import ask_for_copies, locked
from glyptarch_server.posts.following import moved
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState, may_move
from glyptarch_server.posts.memory import key_hash
from glyptarch_server.posts.models import AlsoAt, KeptView, NearKeys, Post, PostKey
from glyptarch_server.posts.queries import slugs_in_use

__all__ = [
    "bring_out_due",
    "forget_items",
    "forget_refused",
    "keep_view",
    "learn_common_text",
    "move_post",
    "remember_anew",
    "remember_duplicates",
    "remove_view",
    "write_posts",
]

_STATES = {
    Verdict.PUBLISH: PostState.PUBLISHED,
    Verdict.HOLD: PostState.HELD,
    Verdict.DRAFT: PostState.DRAFT,
    Verdict.PRIVATE: PostState.PUBLISHED,
    Verdict.SCHEDULED: PostState.SCHEDULED,
}


def _slugs(blog: Blog, drafts: Sequence[Draft]) -> list[str]:
    bases = [slugify(draft.address) or slugify(draft.title) or "post" for draft in drafts]
    taken = _used_slugs(blog, Counter(bases))
    slugs = []
    for base in bases:
        slug = unused(base, taken)
        taken.add(slug)
        slugs.append(slug)
    return slugs


_FIRST_NUMBERS = 8


def _used_slugs(blog: Blog, bases: Counter[str]) -> set[str]:
    """Return the used slugs among bases and enough of their numbered forms.

    Numbers are looked up in growing ranges, until each base has as many free ones as it needs.
    """
    taken = slugs_in_use(blog, bases)
    crowded = {base: number for base, number in bases.items() if base in taken or number > 1}
    first, last = 2, _FIRST_NUMBERS
    while crowded:
        taken |= slugs_in_use(blog, [f"{base}-{number}" for base in crowded for number in range(first, last + 1)])
        crowded = {
            base: wanted
            for base, wanted in crowded.items()
            if sum(f"{base}-{number}" not in taken for number in range(2, last + 1)) < wanted
        }
        first, last = last + 1, last * _FIRST_NUMBERS
    return taken


def write_posts(
    campaign: Campaign, revision: Revision, kept: Sequence[tuple[Item, Decision]], *, now: datetime
) -> dict[int, Post]:
    """Write the posts of kept decisions, given with the rows of their items.

    Call it in the transaction that writes the decisions. The database refuses a second post of an item.
    """
    drafts = [decision.draft for _, decision in kept if decision.draft]
    if not drafts:
        return {}
    blog = campaign.blog
    grow_branches(blog, {branch for draft in drafts for branch in draft.branches})
    categories = categories_named(blog, {name for draft in drafts for name in draft.categories})
    bylines = bylines_named(blog, {draft.byline for draft in drafts})
    posts = [
        _post(campaign, revision, item, decision, slug, now=now)
        for (item, decision), slug in zip(kept, _slugs(blog, drafts), strict=True)
    ]
    for post, draft in zip(posts, drafts, strict=True):
        post.category = categories.get(name_key(draft.category))
        post.byline = bylines.get(name_key(draft.byline))
    Post.objects.bulk_create(posts)
    _tag(blog, posts, drafts)
    _sort_in(posts, drafts, categories)
    ask_for_copies(blog, posts, now=now)
    _remember(campaign, ((post.pk, item.pk, decision) for post, (item, decision) in zip(posts, kept, strict=True)))
    return {item.pk: post for post, (item, _) in zip(posts, kept, strict=True)}


def _post(campaign: Campaign, revision: Revision, item: Item, decision: Decision, slug: str, *, now: datetime) -> Post:
    draft = decision.draft
    assert draft is not None  # noqa: S101 - a kept decision has a draft, see Decision
    return Post(
        blog=campaign.blog,
        campaign=campaign,
        revision=revision,
        item=item,
        source_id=item.source_id,
        state=_STATES[decision.verdict].value,
        title=draft.title,
        slug=slug,
        body=draft.body,
        excerpt=draft.excerpt,
        lead_url=draft.lead.url[:4000] if draft.lead else "",
        lead_alt=draft.lead.alt if draft.lead else "",
        spare_leads=[{"url": spare.url[:4000], "alt": spare.alt} for spare in draft.spare_leads],
        copies_pictures=draft.copies_pictures,
        copies_recordings_mb=draft.copies_recordings_mb,
        description=draft.description[:500],
        fields=[asdict(field) for field in draft.fields],
        kind=draft.kind,
        comments=draft.comments,
        pinned=draft.pinned,
        visibility=draft.visibility.value,
        pass_phrase=draft.pass_phrase,
        canonical=draft.canonical[:4000],
        out_at=now if _STATES[decision.verdict] is PostState.PUBLISHED else None,
        link=draft.link[:4000],
        language=draft.language[:35],
        attribution=draft.attribution,
        date=draft.date,
        words=count_words(plain_text(draft.body)),
        created_at=now,
        changed_at=now,
    )


def _tag(blog: Blog, posts: Sequence[Post], drafts: Sequence[Draft]) -> None:
    tags = tags_named(blog, {tag for draft in drafts for tag in draft.tags})
    through = Post.tags.through
    pairs = {(post.pk, tags[name_key(tag)].pk) for post, draft in zip(posts, drafts, strict=True) for tag in draft.tags}
    through.objects.bulk_create([through(post_id=post, tag_id=tag) for post, tag in sorted(pairs)])


def _sort_in(posts: Sequence[Post], drafts: Sequence[Draft], categories: Mapping[str, Category]) -> None:
    through = Post.categories.through
    pairs = {
        (post.pk, categories[name_key(name)].pk)
        for post, draft in zip(posts, drafts, strict=True)
        for name in draft.categories
    }
    through.objects.bulk_create([through(post_id=post, category_id=category) for post, category in sorted(pairs)])


def _remember(campaign: Campaign, decided: Iterable[tuple[int, int, Decision]]) -> None:
    _keep_keys((post, item, campaign.pk, decision.captured) for post, item, decision in decided)


def _keep_keys(rows: Iterable[tuple[int, int, int, Captured]]) -> None:
    """Store the keys of decided items as (post, item, campaign, captured item)."""
    keys: list[PostKey] = []
    near: list[NearKeys] = []
    for post, item, campaign, captured in rows:
        keys.extend(
            PostKey(
                post_id=post,
                item_id=item,
                campaign_id=campaign,
                kind=key.kind.value,
                value_hash=key_hash(key.value),
            )
            for key in keys_of(captured)
        )
        alike = near_keys(captured)
        near.append(
            NearKeys(
                post_id=post,
                item_id=item,
                campaign_id=campaign,
                text_keys=alike[Near.TEXT],
                title_keys=alike[Near.TITLE],
            )
        )
    PostKey.objects.bulk_create(keys, ignore_conflicts=True)
    NearKeys.objects.bulk_create(near, ignore_conflicts=True)


def remember_duplicates(campaign: Campaign, duplicates: Iterable[tuple[int, int, Decision]]) -> None:
    """Store the keys of duplicates with the posts they repeat.

    ``(post, item, decision)`` for each. So a later item similar only to the duplicate is found as well. Where the rules
    join similar items, the post names the other source.
    """
    pairs = list(duplicates)
    _remember(campaign, pairs)
    joined = [
        AlsoAt(post_id=post, item_id=item)
        for post, item, decision in pairs
        if decision.reason and decision.reason.data.get("join")
    ]
    AlsoAt.objects.bulk_create(joined, ignore_conflicts=True)


def forget_items(campaign: Campaign, items: Sequence[int]) -> None:
    """Remove the keys under which a campaign's items are known as duplicates of other posts."""
    for model in (PostKey, NearKeys):
        model.objects.filter(campaign=campaign, item__in=items).exclude(post__item=F("item")).delete()
    AlsoAt.objects.filter(item__in=items, post__campaign=campaign).exclude(post__item=F("item")).delete()


def remember_anew(items: Sequence[Item]) -> None:
    """Make the keys anew by which posts of these items, and of their duplicates, are found."""
    captured = {row.pk: captured_item for row, captured_item in zip(items, as_captured(items), strict=True)}
    with transaction.atomic():
        kept = NearKeys.objects.select_for_update().filter(item__in=list(captured))
        duplicates = list(kept.values_list("post", "item", "campaign"))
        PostKey.objects.filter(item__in=list(captured)).delete()
        kept.delete()
        _keep_keys((post, item, campaign, captured[item]) for post, item, campaign in duplicates)


# The number of stories that common passages are computed from.
_MOST_STORIES = 5_000


def learn_common_text(blog_id: int, *, now: datetime) -> None:
    """Count the word runs in the newest 5,000 stories of a blog.

    Each post counts once, by its item: a story from five sources is one story, and refused posts do not count.
    """
    posts = Post.objects.filter(blog=blog_id, item__features_version=FEATURES_VERSION)
    posts = posts.exclude(state__in=NO_LONGER).order_by("-date")
    packed = posts.values_list("item__fingerprint", flat=True)[:_MOST_STORIES]
    sketches = (Fingerprint.unpacked(fingerprint).sketch for fingerprint in packed.iterator())
    keep_common_text(blog_id, CommonShingles.learned(sketches), now=now)


def move_post(
    post: Post,
    to: PostState,
    *,
    seen: PostState | None = None,
    date: datetime | None = None,
    why: str = "",
    now: datetime,
) -> Post:
    """Move a post to another state.

    ``date`` is the time of a scheduled one, ``why`` a person's reason. ``seen`` is the state that the person knows.
    Raises Conflict where the post has moved meanwhile (and says by whom), or may not move.
    """
    with transaction.atomic():
        (row,) = locked(post.blog_id, [post.pk])
        state = PostState(row.state)
        if seen is not None and state is not seen:
            raise Conflict(_moved_meanwhile(row, state))
        if state is to:
            return post
        if not may_move(state, to):
            raise Conflict(f"“{row.title}” is {state.value} now, and cannot become {to.value}.")
        what: dict[str, Any] = {"to": to.value, **({"why": why} if why else {})}
        wanted = moved(row, to, now=now, date=date)
        if to is PostState.BINNED:
            wanted |= {"binned_at": now.isoformat(), "marker": True}
        moved_post = change_now(row.blog, Action.MOVE, row.pk, wanted, subject=row.title, what=what, now=now)
        after: Any = {"to": to.value, "why": why} if why else to.value
        record("post.moved", row.title, blog=row.blog_id, before=state.value, after=after)
    post.state, post.changed_at, post.date, post.version = (
        moved_post.state,
        moved_post.changed_at,
        moved_post.date,
        moved_post.version,
    )
    return post


def _moved_meanwhile(row: Post, state: PostState) -> str:
    last = last_done(row.blog_id, "post.moved", row.title)
    who = f"{last.name} has decided" if last is not None and last.name else "Somebody has decided"
    return f"{who} about “{row.title}” meanwhile: it is {state.value} now. Nothing was changed."


def bring_out_due(*, now: datetime) -> int:
    """Publish the scheduled posts that are due.

    Return how many.
    """
    due = Post.objects.filter(state=PostState.SCHEDULED.value, date__lte=now)
    # The pace counts it from its date, not from when this job ran.
    return due.update(state=PostState.PUBLISHED.value, changed_at=now, out_at=F("date"))


def forget_refused(campaign: Campaign, items: Collection[int]) -> int:
    """Remove the refused posts of some items of a campaign with their keys.

    Return how many.
    """
    states = [PostState.REFUSED.value, PostState.GONE.value]
    rows = Post.objects.filter(AnyOf("item_id", items), campaign=campaign, state__in=states)
    number = rows.count()
    rows.delete()
    return number


_MOST_VIEWS = 100


def keep_view(blog: Blog, name: str, query: str) -> KeptView:
    """Save a filter of the list of posts under a name.

    Raises Conflict beyond a hundred per blog.
    """
    views = KeptView.objects.filter(blog=blog)
    if views.count() >= _MOST_VIEWS and not views.filter(name=name).exists():
        raise Conflict("A blog keeps a hundred views. Remove one first.")
    with transaction.atomic():
        row, _ = KeptView.objects.update_or_create(blog=blog, name=name, defaults={"query": query})
        record("view.kept", row.name, blog=blog.pk)
    return row


def remove_view(blog: Blog, number: int) -> None:
    """Remove a named filter. Raises NotFound."""
    with transaction.atomic():
        row = KeptView.objects.filter(blog=blog, pk=number).first()
        if row is None:
            raise NotFound("This blog has no such view. It may have been removed.")
        record("view.removed", row.name, blog=blog.pk)
        row.delete()
