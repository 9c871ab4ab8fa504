"""Posts similar to a post."""

from dataclasses import dataclass

from glyptarch_core.match import near_keys
from glyptarch_core.ports import Near, PostRef, Reach, Scope
from glyptarch_core.text import Passage, likeness, shared_passages

from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.memory import PostMemory
from glyptarch_server.posts.models import Post

__all__ = ["Alike", "alike_to"]

_LEAST = 0.15
_MOST = 4


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
