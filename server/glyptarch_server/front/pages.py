"""Posts as public pages show them, made from a row or from an unsaved draft."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, Literal

from babel.dates import format_date
from babel.units import format_unit
from django.utils import timezone
from django.utils.formats import number_format
from django.utils.html import escape
from django.utils.translation import gettext
from glyptarch_core.appearance import mark_of
from glyptarch_core.draft import Draft, Visibility
from glyptarch_core.item import MediaKind, SourceCard
from glyptarch_core.pictures import Shown, ShownPicture, media_of, show_copies
from glyptarch_core.text import Unit, count_words, cut, paragraphs, plain_text, shows_picture, slugify, without_tracking
from glyptarch_core.text.chapters import Chapter, chapters_in

from glyptarch_server.front.offering import OfferView
from glyptarch_server.front.saying import locale_in_force

if TYPE_CHECKING:
    from glyptarch_server.posts.for_readers import ListedPost
    from glyptarch_server.posts.models import Post

__all__ = [
    "AlsoLink",
    "FieldView",
    "LeadView",
    "Named",
    "PostView",
    "SoundView",
    "addresses_of",
    "card_of_post",
    "empty_view",
    "lead_addresses",
    "said_date",
    "sound_of",
    "sounds_in",
    "view_of_draft",
    "view_of_post",
    "whole_words",
]

# In words.
_TEASER = 32
_LONG_TEASER = 50
_SUMMARY = 40
# Adults read English prose at 238 words a minute (Brysbaert 2019, a mean of 190 studies).
_WORDS_A_MINUTE = 238
_FEWEST_MINUTES = 2
# Fields of a post in a list.
_FIELDS = 3


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
    """A custom field.

    ``type`` is that of the core, rich text is sanitised HTML.
    """

    label: str
    type: str
    value: str | float | bool

    @property
    def number(self) -> str:
        """A number with two decimals at most, as the language of the page writes it.

        Words that stand in its place stay.
        """
        if isinstance(self.value, str):
            return self.value
        value = round(float(self.value), 2)
        return number_format(int(value) if value.is_integer() else value)


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadView:
    """A lead picture: its files and its description."""

    picture: ShownPicture
    alt: str


@dataclass(frozen=True, kw_only=True)
class PostView:
    """A post as the templates show it. ``body`` is sanitised HTML."""

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
    fields: Sequence[FieldView] = ()
    pinned: bool = False
    visibility: Visibility = Visibility.PUBLIC
    also_at: Sequence[AlsoLink] = ()
    attribution: str = ""
    comments: bool = False
    # Copies of its media, by the address of the original.
    copies: Mapping[str, Shown] = field(default_factory=dict)
    copies_pictures: bool = False
    spare_leads: Sequence[tuple[str, str]] = ()
    # The last parts of the addresses of its source and its byline.
    source_key: str = ""
    byline_slug: str = ""
    # What Place calls it, such as film.
    kind: str = "article"
    # The offer of the product that it is about.
    offer: OfferView | None = None

    @cached_property
    def lead(self) -> LeadView | None:
        """The lead picture.

        Where only copies are shown, the first choice that has one.
        """
        choices = [(self.lead_url, self.lead_alt), *self.spare_leads] if self.lead_url else []
        for url, alt in choices:
            kept = self.copies.get(url)
            if isinstance(kept, ShownPicture):
                return LeadView(picture=kept, alt=alt or kept.alt)
            if not self.copies_pictures or not url.startswith(("http://", "https://")):
                return LeadView(picture=ShownPicture(url=url), alt=alt)
        return None

    @cached_property
    def shown_body(self) -> str:
        """The body with the blog's own copies in it."""
        if not self.copies and not self.copies_pictures:
            return self.body
        return show_copies(self.body, self.copies, pictures=self.copies_pictures)

    @property
    def said_date(self) -> str:
        """Its day, as the language of the blog writes it."""
        return said_date(self.date)

    @property
    def mark(self) -> tuple[str, str]:
        """The letters and the colour of its source."""
        return mark_of(self.source, self.source_key or self.source)

    @property
    def has_phrase(self) -> bool:
        """Whether the text is opened with a pass phrase."""
        return self.visibility is Visibility.PHRASE

    @property
    def thumbnail(self) -> LeadView | None:
        """The picture in lists.

        None for posts with a pass phrase.
        """
        return None if self.has_phrase else self.lead

    @property
    def teaser(self) -> str:
        """The text below the title in lists."""
        return self._beginning(_TEASER)

    @property
    def long_teaser(self) -> str:
        """The same for the post that opens a page."""
        return self._beginning(_LONG_TEASER)

    def _beginning(self, words: int) -> str:
        if self.has_phrase:
            return gettext("Opens with a pass phrase.")
        return cut([whole_words(" ".join(self.excerpt.split()))], unit=Unit.WORDS, count=words)

    @property
    def summary(self) -> str:
        """The description for search engines."""
        return cut([whole_words(self.description)], unit=Unit.WORDS, count=_SUMMARY)

    @property
    def leads_on(self) -> bool:
        """Whether to link the original below the text.

        Not where the body already does.
        """
        return bool(self.link) and f'href="{escape(self.link)}"' not in self.body

    @property
    def lead_on_top(self) -> bool:
        """Whether to show the lead above the text.

        Not where the body already shows it.
        """
        return self.lead is not None and not (
            escape(self.lead_url) in self.body or shows_picture(self.body, self.lead_url)
        )

    @property
    def paragraphs(self) -> list[str]:
        """The excerpt, paragraph by paragraph."""
        return [part for part in self.excerpt.split("\n") if part]

    @property
    def reading_time(self) -> str:
        """How long it takes to read, in minutes as the language of the blog writes them.

        Empty for less than two.
        """
        minutes = round(count_words(plain_text(self.body)) / _WORDS_A_MINUTE)
        if minutes < _FEWEST_MINUTES or self.has_phrase:
            return ""
        return format_unit(minutes, "duration-minute", length="short", locale=locale_in_force())

    @property
    def has_text(self) -> bool:
        """Whether the body has any text.

        Without one, as for a film alone, the excerpt is shown.
        """
        return bool(paragraphs(self.body))


def said_date(moment: datetime, form: Literal["long", "full"] = "long") -> str:
    """Return a day in the language and the time zone that are in force, as CLDR writes it."""
    return format_date(timezone.localtime(moment).date(), form, locale=locale_in_force())


_LONGEST_STUB = 40
_SHORTEST_CUT = 120


def whole_words(text: str) -> str:
    """Return a text that a source cut, without the stub of a word at its end.

    Sources cut long excerpts by characters. A text that ends with a sign, or is short, was not cut.
    """
    text = text.rstrip()
    if len(text) < _SHORTEST_CUT or not text[-1:].isalnum():
        return text
    whole, _, stub = text.rpartition(" ")
    return f"{whole.rstrip(',;:–—-')}…" if whole and len(stub) <= _LONGEST_STUB else text


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundView:
    """The sound of an episode and its chapters.

    ``plays`` is False where the body has a player.
    """

    url: str
    chapters: Sequence[Chapter]
    plays: bool


def sound_of(
    sounds: Sequence[str], facts: Mapping[str, Any], body: str, copies: Mapping[str, Shown] = MappingProxyType({})
) -> SoundView | None:
    """Return the sound of a post with its chapters.

    It is the first of an item's ``sounds``, given by their addresses. None without one, or where the body plays it.
    """
    url = next((url for url in sounds if url.startswith(("http://", "https://"))), "")
    chapters = chapters_in(str(facts.get("chapter_list") or ""))
    if not url or (not chapters and escape(url) in body):
        return None
    kept = copies.get(url)
    return SoundView(url=kept if isinstance(kept, str) else url, chapters=chapters, plays=escape(url) not in body)


def sounds_in(post: "Post") -> list[str]:
    """Return the addresses of the sounds of a post's item."""
    media = post.item.media if post.item else []
    return [medium["url"] for medium in media if medium["kind"] == MediaKind.SOUND.value]


def lead_addresses(posts: Iterable["ListedPost | Post"]) -> set[str]:
    """Return the addresses of the lead pictures of posts, to query their copies together."""
    addresses: set[str] = set()
    for post in posts:
        if post.copies_pictures or post.lead_url.startswith("/"):
            addresses.update([post.lead_url, *(spare["url"] for spare in post.spare_leads)])
    return addresses - {""}


def addresses_of(post: "Post") -> set[str]:
    """Return the addresses of all media of a post: lead pictures, sound, and those in its text."""
    addresses = lead_addresses([post])
    if post.copies_recordings_mb and post.item is not None:
        addresses.update(sounds_in(post))
    if post.copies_pictures or post.copies_recordings_mb:
        pictures, recordings = media_of(post.body)
        addresses.update([*(pictures if post.copies_pictures else ()), *recordings])
    return addresses - {""}


def view_of_post(post: "Post", copies: Mapping[str, Shown] = MappingProxyType({})) -> PostView:
    """Return a saved post for its page, with the copies of its media."""
    also_at = post.also_at.select_related("item__source").only("item__link", "item__source__title")
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
        source=post.source.title if post.source else "",
        source_key=post.source.key if post.source else "",
        byline_slug=post.byline.slug if post.byline else "",
        language=post.language,
        kind=post.kind,
        description=post.description or post.excerpt,
        canonical=post.canonical,
        fields=[FieldView(label=field["label"], type=field["type"], value=field["value"]) for field in post.fields],
        pinned=post.pinned,
        comments=post.comments,
        visibility=Visibility(post.visibility),
        attribution=post.attribution,
        copies=copies,
        copies_pictures=post.copies_pictures,
        spare_leads=[(spare["url"], spare["alt"]) for spare in post.spare_leads],
        also_at=[AlsoLink(source=also.item.source.title, link=without_tracking(also.item.link)) for also in also_at],
    )


def card_of_post(post: "ListedPost", copies: Mapping[str, Shown], offer: OfferView | None = None) -> PostView:
    """Return a post for lists: title, picture, teaser, byline and date, without text and tags."""
    return replace(
        empty_view(post.date),
        slug=post.slug,
        title=post.title,
        excerpt=post.excerpt,
        lead_url=post.lead_url,
        lead_alt=post.lead_alt,
        category=Named(name=post.category__name, slug=post.category__slug or "") if post.category__name else None,
        byline=post.byline__name or "",
        source=post.source__title or "",
        source_key=post.source__key or "",
        byline_slug=post.byline__slug or "",
        kind=post.kind,
        pinned=post.pinned,
        visibility=Visibility(post.visibility),
        copies=copies,
        copies_pictures=post.copies_pictures,
        spare_leads=[(spare["url"], spare["alt"]) for spare in post.spare_leads],
        offer=offer,
        fields=[
            FieldView(**{name: field[name] for name in ("label", "type", "value")}) for field in post.fields[:_FIELDS]
        ],
    )


def empty_view(date: datetime) -> PostView:
    """Return the view of an empty new post."""
    return PostView(
        slug="", title="", body="", excerpt="", lead_url="", lead_alt="", category=None, tags=(), byline="", date=date,
        link="", source="", language="",
    )  # fmt: skip


def view_of_draft(draft: Draft, source: SourceCard, copies: Mapping[str, Shown] = MappingProxyType({})) -> PostView:
    """Return a draft for the preview on the bench, as the page of its post would show it.

    Pictures without a copy yet are shown from where they stand.
    """
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
        source=source.title,
        source_key=source.key,
        byline_slug=slugify(draft.byline) if draft.byline else "",
        kind=draft.kind,
        pinned=draft.pinned,
        visibility=draft.visibility,
        comments=draft.comments,
        copies=copies,
        spare_leads=[(spare.url, spare.alt) for spare in draft.spare_leads],
        language=draft.language,
        description=draft.description or draft.excerpt,
        canonical=draft.canonical,
        fields=[FieldView(label=field.label, type=field.type.value, value=field.value) for field in draft.fields],
        attribution=draft.attribution,
    )
