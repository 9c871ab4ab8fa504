"""Posts similar to a post, and those about the same event."""

from dataclasses import dataclass
from datetime import timedelta

from django.db.models import TextField, Value
from django.db.models.functions import Coalesce, Left, NullIf
from glyptarch_core.match import LOOKED_AT, near_keys, same_events
from glyptarch_core.ports import Near, PostRef, Reach, Scope
from glyptarch_core.text import Passage, likeness, shared_passages

from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Post

__all__ = ["Alike", "Event", "about_the_same_event", "alike_to"]

_LEAST = 0.15
_MOST = 4
_DAYS_APART = timedelta(days=4)
_MOST_READ = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Alike:
    """Another post with its likeness and the longest common passages.

    Likeness is the share of the shorter text in the longer, 0 to 1.
    """

    post: Post
    likeness: float
    passages: tuple[str, ...]


def alike_to(post: Post) -> list[Alike]:
    """Return the posts of the blog whose texts share most with a post's, most similar first.

    Texts are those of the items, as Match compares them. Empty for a post written by hand.
    """
    if post.item is None or post.campaign is None:
        return []
    (captured,) = as_captured([post.item])
    keys = near_keys(captured)[Near.TEXT]
    memory = PostMemory(post.campaign)
    (candidates,) = memory.resembling(Near.TEXT, [keys], Reach(scope=Scope.BLOG, refused=False))
    mine = captured.features
    by_number: dict[int, tuple[float, Passage]] = {}
    for candidate in candidates:
        number = candidate.seen.ref.post if isinstance(candidate.seen.ref, PostRef) else post.pk
        share = likeness(mine.fingerprint, candidate.fingerprint).text
        if number != post.pk and (number not in by_number or share > by_number[number][0]):
            by_number[number] = (share, candidate.main_text)
    alike = [number for number, (share, _) in by_number.items() if share >= _LEAST]
    best = sorted(alike, key=lambda number: -by_number[number][0])[:_MOST]
    rows = Post.objects.filter(pk__in=best).select_related("campaign", "source").defer("found_by", "body").in_bulk()
    # Positions of passages are computed from the text itself.
    own = Passage(mine.main_text.text)
    return [
        Alike(
            post=rows[number],
            likeness=by_number[number][0],
            passages=tuple(shared_passages(own, Passage(by_number[number][1].text))),
        )
        for number in best
    ]


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """Another post that may be about the same event, and the rare words in both."""

    post: Post
    likeness: float
    words: tuple[str, ...]


def about_the_same_event(post: Post) -> list[Event]:
    """Return posts of the blog that may tell the same event in other words, most similar first.

    They were published within four days of it. What is rare is judged by the 200 posts before them.
    """
    if post.item is None:
        return []
    # Long texts are cut by the database: 200 whole ones could take a hundred megabytes.
    told = Left(Coalesce(NullIf("item__text", Value("", TextField())), "item__summary_text"), LOOKED_AT)
    texts = (
        Post.objects.filter(blog=post.blog_id, item__isnull=False, date__lte=post.date + _DAYS_APART)
        .exclude(pk=post.pk)
        .exclude(state=PostState.BINNED)
        .order_by("-date", "-pk")
        .values_list("pk", "date", "item__title", told)[:_MOST_READ]
    )
    near: dict[int, str] = {}
    around: list[str] = []
    for number, date, title, text in texts:
        if post.date - date <= _DAYS_APART:
            near[number] = f"{title}\n{text}"
        else:
            around.append(f"{title}\n{text}")
    item = post.item
    events = same_events(f"{item.title}\n{item.text or item.summary_text}", list(near.values()), around)[:_MOST]
    numbers = [list(near)[event.number] for event in events]
    rows = Post.objects.filter(pk__in=numbers).select_related("source").defer("found_by", "body").in_bulk()
    return [
        Event(post=rows[number], likeness=event.likeness, words=event.words)
        for number, event in zip(numbers, events, strict=True)
        if number in rows
    ]
