"""Posts as the public pages show them, made from a row or from a draft that is not written yet."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from django.utils.html import escape
from glyptarch_core.draft import Draft, Visibility
from glyptarch_core.text import Unit, cut, paragraphs, shows_picture, slugify

if TYPE_CHECKING:
    from glyptarch_server.posts.models import Post

__all__ = [
    "AlsoLink",
    "FieldView",
    "Named",
    "PlayerView",
    "PostView",
    "player_of",
    "view_of_draft",
    "view_of_post",
]

# In words.
_TEASER = 32
_LONG_TEASER = 50
_SUMMARY = 40


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
class FieldView:
    """A field of the blog's own: ``type`` is that of the core, rich text is sanitised HTML."""

    label: str
    type: str
    value: str | float | bool


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
    description: str = ""
    canonical: str = ""
    categories: Sequence[Named] = ()
    fields: Sequence[FieldView] = ()
    pinned: bool = False
    visibility: Visibility = Visibility.PUBLIC
    also_at: Sequence[AlsoLink] = ()
    attribution: str = ""
    comments: bool = False

    @property
    def has_phrase(self) -> bool:
        """Whether the text is opened with a pass phrase."""
        return self.visibility is Visibility.PHRASE

    @property
    def thumbnail(self) -> str:
        """The picture in lists; what opens with a pass phrase does not show its own."""
        return "" if self.has_phrase else self.lead_url

    @property
    def teaser(self) -> str:
        """What stands under the title in lists."""
        return self._beginning(_TEASER)

    @property
    def long_teaser(self) -> str:
        """The same for the post that opens a page."""
        return self._beginning(_LONG_TEASER)

    def _beginning(self, words: int) -> str:
        if self.has_phrase:
            return "Opens with a pass phrase."
        return cut([" ".join(self.excerpt.split())], unit=Unit.WORDS, count=words)

    @property
    def summary(self) -> str:
        """What search engines show of it."""
        return cut([self.description], unit=Unit.WORDS, count=_SUMMARY)

    @property
    def leads_on(self) -> bool:
        """Whether the way to the original stands under the text: not where the body shows it itself."""
        return bool(self.link) and f'href="{escape(self.link)}"' not in self.body

    @property
    def lead_on_top(self) -> bool:
        """Whether the lead picture stands over the text: not where the body shows it itself."""
        return bool(self.lead_url) and not (
            escape(self.lead_url) in self.body or shows_picture(self.body, self.lead_url)
        )

    @property
    def paragraphs(self) -> list[str]:
        """The excerpt, paragraph by paragraph."""
        return [part for part in self.excerpt.split("\n") if part]

    @property
    def has_text(self) -> bool:
        """Whether the body has any text; where it has none (a film alone, say) the excerpt stands under it."""
        return bool(paragraphs(self.body))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayerView:
    """A player of a film elsewhere: its address and origin, and width by height of the film."""

    url: str
    origin: str
    ratio: float


_RATIOS = (0.4, 4.0)
_USUAL_RATIO = 16 / 9


def player_of(post: "Post", hosts: Sequence[str]) -> PlayerView | None:
    """Give the player of the film that a post is about, where its host is among those allowed."""
    facts = post.item.facts
    url = str(facts.get("player") or "")
    try:
        parts = urlsplit(url)
        ratio = float(facts.get("ratio") or _USUAL_RATIO)
    except ValueError:
        return None
    if parts.scheme not in {"http", "https"} or parts.netloc.lower() not in hosts:
        return None
    least, most = _RATIOS
    return PlayerView(
        url=url, origin=f"{parts.scheme}://{parts.netloc.lower()}", ratio=round(min(max(ratio, least), most), 4)
    )


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
        source=post.source.title,
        language=post.language,
        description=post.description or post.excerpt,
        canonical=post.canonical,
        categories=[Named(name=one.name, slug=one.slug) for one in post.categories.all()],
        fields=[FieldView(label=one["label"], type=one["type"], value=one["value"]) for one in post.fields],
        pinned=post.pinned,
        comments=post.comments,
        visibility=Visibility(post.visibility),
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
        description=draft.description,
        canonical=draft.canonical,
        categories=[Named(name=name, slug=slugify(name)) for name in draft.categories],
        fields=[FieldView(label=one.label, type=one.type.value, value=one.value) for one in draft.fields],
        attribution=draft.attribution,
    )
