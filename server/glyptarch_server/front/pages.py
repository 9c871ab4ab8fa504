"""Posts as the public pages show them, made from a row or from a draft that is not written yet."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

from glyptarch_core.text import paragraphs, slugify
from glyptarch_core.trace import Draft

if TYPE_CHECKING:
    from glyptarch_server.posts.models import Post

__all__ = ["AlsoLink", "Named", "PostView", "view_of_draft", "view_of_post"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Named:
    """A category or tag: its name and the last part of its address."""

    name: str
    slug: str


@dataclass(frozen=True, slots=True, kw_only=True)
class AlsoLink:
    """Another source that has the story."""

    source: str
    link: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PostView:
    """What the templates show of a post. ``body`` is sanitised HTML."""

    slug: str
    title: str
    body: str
    excerpt: str
    lead_url: str
    lead_alt: str
    category: Named | None
    tags: Sequence[Named]
    byline: str
    date: datetime
    link: str
    source: str
    language: str
    also_at: Sequence[AlsoLink] = ()
    attribution: str = ""

    @property
    def paragraphs(self) -> list[str]:
        """The excerpt, paragraph by paragraph."""
        return [part for part in self.excerpt.split("\n") if part]

    @property
    def says_more(self) -> bool:
        """Whether the body says more than the excerpt, so that the excerpt can stand before it."""
        return bool(paragraphs(self.body))


def view_of_post(post: "Post") -> PostView:
    """Give a written post for a page."""
    return PostView(
        slug=post.slug,
        title=post.title,
        body=post.body,
        excerpt=post.excerpt,
        lead_url=post.lead_url,
        lead_alt=post.lead_alt,
        category=Named(name=post.category.name, slug=post.category.slug) if post.category else None,
        tags=[Named(name=tag.name, slug=tag.slug) for tag in post.tags.all()],
        byline=post.byline.name if post.byline else "",
        date=post.date,
        link=post.link,
        source=post.item.source.title,
        language=post.language,
        attribution=post.attribution,
        also_at=[AlsoLink(source=also.item.source.title, link=also.item.link) for also in post.also_at.all()],
    )


def view_of_draft(draft: Draft, source: str) -> PostView:
    """Give a draft for the preview on the bench."""
    return PostView(
        slug="",
        title=draft.title,
        body=draft.body,
        excerpt=draft.excerpt,
        lead_url=draft.lead.url if draft.lead else "",
        lead_alt=draft.lead.alt if draft.lead else "",
        category=Named(name=draft.category, slug=slugify(draft.category)) if draft.category else None,
        tags=[Named(name=tag, slug=slugify(tag)) for tag in draft.tags],
        byline=draft.byline,
        date=draft.date,
        link=draft.link,
        source=source,
        language=draft.language,
        attribution=draft.attribution,
    )
