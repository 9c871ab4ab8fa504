"""What the API takes and gives about posts."""

from datetime import datetime

from glyptarch_core.draft import Visibility
from ninja import Schema

from glyptarch_server.posts.lifecycle import PostState

__all__ = ["MoveIn", "PostOut", "PostPageOut", "SuggestedOut", "WordsOut"]


class MoveIn(Schema):
    """The state a post is to go to, and the one that the person knows it in."""

    state: PostState
    seen: PostState | None = None


class PostOut(Schema):
    """A post in the list of the desk."""

    id: int
    state: PostState
    title: str
    excerpt: str
    slug: str
    picture: str
    category: str
    categories: list[str]
    tags: list[str]
    kind: str
    pinned: bool
    visibility: Visibility
    byline: str
    campaign: str
    campaign_slug: str
    revision: int
    source: str
    link: str
    date: datetime
    created_at: datetime
    moves: list[PostState]


class PostPageOut(Schema):
    """One page of posts, with how many there are in each state."""

    rows: list[PostOut]
    total: int
    states: dict[str, int] | None


class WordsOut(Schema):
    """A line of search words: how many items it brought, and of how many of them a post was made."""

    text: str
    brought: int
    kept: int


class SuggestedOut(Schema):
    """Words that go with the given ones: in how many kept items they stand, and in how many others."""

    text: str
    kept: int
    elsewhere: int
