"""The front of a blog, put together from the parts that its owner chose."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from itertools import groupby
from typing import TYPE_CHECKING

from django.utils.translation import gettext, gettext_noop
from glyptarch_core.appearance import Look, Part, Which, parts_of
from glyptarch_core.appearance.parts import (
    BriefsPart,
    ChosenPart,
    HighlightsPart,
    MostReadPart,
    NewestPart,
    OpenerPart,
    Place,
    SourcesPart,
    StillsPart,
    TableOrder,
    TablePart,
    TracksPart,
    WordsPart,
)
from glyptarch_core.offers import offers_of
from glyptarch_core.text import text_to_html

from glyptarch_server import wiring
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.front.around import cards
from glyptarch_server.front.offering import ends_at, show_any_goods
from glyptarch_server.front.pages import FieldView, PostView
from glyptarch_server.offers.queries import keys_by_offer
from glyptarch_server.posts.credits import category_of, tag_of
from glyptarch_server.posts.for_readers import listed_by_number, posts_in_lists
from glyptarch_server.posts.reads import most_read

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from glyptarch_server.blogs.models import Blog, Category, Tag
    from glyptarch_server.posts.models import Post

__all__ = ["Band", "Front", "PartView", "front_in_parts"]

_OF_POSTS = (OpenerPart, HighlightsPart, BriefsPart, StillsPart, TracksPart, TablePart)
_COLUMNS = 4
_ENOUGH_OF_A_PAGE = 0.6
"""The newest go on into the next page until this share of a page is new to the front."""

_MOST_PAGES = 4

_SPARE = 4
"""Products and posts looked at for each row of a table of offers, and of what is read most."""

_HEADINGS: Mapping[str, str] = {
    "briefs": gettext_noop("In brief"),
    "most-read": gettext_noop("Most read"),
    "stills": gettext_noop("Films"),
    "tracks": gettext_noop("Episodes"),
    "sources": gettext_noop("Sources"),
    "newest": gettext_noop("Newest"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class RowView:
    """A post as a row of a table, its values in the order of the columns."""

    post: PostView
    values: Sequence[FieldView | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class PartView:
    """A part with what it shows.

    ``link`` leads from the heading to a section, tag or source. The posts of a part of sources are the latest of each.
    """

    kind: str
    id: str
    heading: str = ""
    link: str = ""
    posts: Sequence[PostView] = ()
    columns: Sequence[str] = ()
    rows: Sequence[RowView] = ()
    # Whether any of its posts has an offer, which then has a column of its own.
    has_offers: bool = False
    # The address of all goods in the same order.
    all_goods: str = ""
    text: str = ""


@dataclass(slots=True, kw_only=True)
class Band:
    """What stands beside each other.

    One part over the whole width, or a wide and a narrow column.
    """

    whole: PartView | None = None
    wide: list[PartView] = field(default_factory=list)
    narrow: list[PartView] = field(default_factory=list)


@dataclass(frozen=True, slots=True, kw_only=True)
class Front:
    """The first page of a blog. ``older`` is the number of the page that goes on."""

    bands: Sequence[Band]
    newest: datetime | None
    older: int | None


@dataclass(slots=True)
class _Chooser:
    """Chooses the posts of each part: none stands on the front twice, unless a person chose it."""

    blog: "Blog"
    rows: "QuerySet[Post]"
    # How many of the newest are looked at.
    window: int
    taken: set[int] = field(default_factory=set)
    _found: dict[Which, list[int]] = field(default_factory=dict)
    _sections: dict[str, "Category | None"] = field(default_factory=dict)
    _tags: dict[str, "Tag | None"] = field(default_factory=dict)

    def section(self, slug: str) -> "Category | None":
        """Return a section by its slug, asked for once. None for none."""
        if slug and slug not in self._sections:
            self._sections[slug] = category_of(self.blog, slug)
        return self._sections.get(slug)

    def tag(self, slug: str) -> "Tag | None":
        """Return a tag by its slug, asked for once. None for none."""
        if slug and slug not in self._tags:
            self._tags[slug] = tag_of(self.blog, slug)
        return self._tags.get(slug)

    def newest(self, which: Which = Which()) -> list[int]:  # noqa: B008 - it is frozen
        """Return the numbers of the newest posts of a choice.

        They are asked for once for all parts with the same choice.
        """
        if which not in self._found:
            self._found[which] = list(self._narrowed(which).values_list("pk", flat=True)[: self.window])
        return self._found[which]

    def take(self, which: Which, count: int) -> list[int]:
        """Take the next posts of a choice that no part has yet."""
        numbers = [number for number in self.newest(which) if number not in self.taken][:count]
        self.taken.update(numbers)
        return numbers

    def take_offers(self, which: Which, count: int, *, reduced: bool) -> list[int]:
        """Take the newest post of each product that is reduced most, or costs least.

        Only fresh prices count.
        """
        document, now = offers_of(self.blog.offers), wiring.clock()()
        show_any_goods()
        keys = keys_by_offer(self.blog, document, now, reduced=reduced, most=count * _SPARE)
        by_key: dict[str, int] = {}
        rows = self._narrowed(which).filter(AnyOf("product", keys)) if keys else self.rows.none()
        for number, product in rows.values_list("pk", "product")[: count * _SPARE]:
            if number not in self.taken:
                by_key.setdefault(product, number)
        numbers = [by_key[key] for key in keys if key in by_key][:count]
        self.taken.update(numbers)
        return numbers

    def most_read(self, count: int, days: int) -> list[int]:
        """Return the posts that were read most in the last days. The page is made anew each hour."""
        now = wiring.clock()()
        ends_at(now.replace(minute=0, second=0, microsecond=0) + timedelta(hours=1))
        counted = most_read(self.blog, today=now.date(), days=days, most=count * _SPARE)
        readable = set(self.rows.filter(AnyOf("pk", counted)).order_by().values_list("pk", flat=True))
        return [number for number in counted if number in readable][:count]

    def _narrowed(self, which: Which) -> "QuerySet[Post]":
        section, tag = self.section(which.section), self.tag(which.tag)
        if (which.section and section is None) or (which.tag and tag is None):
            return self.rows.none()
        rows = self.rows.filter(source__key=which.source) if which.source else self.rows
        rows = rows.filter(kind=which.post_kind) if which.post_kind else rows
        return posts_in_lists(self.blog, category=section, tag=tag, rows=rows)


def front_in_parts(blog: "Blog", look: Look, *, member: bool, on_a_page: int) -> Front:
    """Return the front of a blog.

    It takes one query for each choice of posts, and two for what they show.
    """
    parts = parts_of(look)
    counts = sum(1 if isinstance(part, OpenerPart) else part.count for part in parts if isinstance(part, _OF_POSTS))
    chooser = _Chooser(blog, posts_in_lists(blog, member=member), counts + _MOST_PAGES * on_a_page + 1)
    numbers = {part.id: _posts_of(part, chooser) for part in parts}
    newest = chooser.newest()
    pages = _pages_of_newest(newest, chooser.taken, on_a_page)
    left = [number for number in newest[: pages * on_a_page] if number not in chooser.taken]
    wanted = {number for chosen in numbers.values() for number in chosen} | {*left, *newest[:on_a_page]}
    found = listed_by_number(chooser.rows, wanted)
    views = dict(zip(found, cards(blog, list(found.values())), strict=True))
    shown = {name: [views[number] for number in chosen if number in views] for name, chosen in numbers.items()}
    lately = [views[number] for number in newest[:on_a_page] if number in views]
    rest = [views[number] for number in left if number in views]
    drawn = [
        _view_of(part, rest if isinstance(part, NewestPart) else shown[part.id], lately, chooser) for part in parts
    ]
    return Front(
        bands=_bands(parts, drawn),
        newest=max((post.date for post in views.values()), default=None),
        older=pages + 1 if len(newest) > pages * on_a_page else None,
    )


def _posts_of(part: Part, chooser: _Chooser) -> Sequence[int]:
    match part:
        case OpenerPart(which=which):
            return chooser.take(which, 1)
        case TablePart(order=TableOrder.REDUCED | TableOrder.CHEAPEST):
            return chooser.take_offers(part.which, part.count, reduced=part.order is TableOrder.REDUCED)
        case HighlightsPart() | BriefsPart() | StillsPart() | TracksPart() | TablePart():
            return chooser.take(part.which, part.count)
        case ChosenPart(posts=posts):
            chooser.taken.update(posts)
            return posts
        case MostReadPart(count=count, days=days):
            return chooser.most_read(count, days)
    return ()


def _pages_of_newest(newest: Sequence[int], taken: set[int], on_a_page: int) -> int:
    """Return how many pages of the newest the front covers.

    So other parts do not leave its own list almost empty.
    """
    for pages in range(1, _MOST_PAGES):
        left = sum(number not in taken for number in newest[: pages * on_a_page])
        if left >= on_a_page * _ENOUGH_OF_A_PAGE or len(newest) <= pages * on_a_page:
            return pages
    return _MOST_PAGES


def _view_of(part: Part, posts: Sequence[PostView], lately: Sequence[PostView], chooser: _Chooser) -> PartView:
    usual, link = _usual_heading(part.kind, getattr(part, "which", Which()), chooser)
    base = PartView(kind=part.kind, id=part.id, heading=part.heading or usual, link=link, posts=posts)
    match part:
        case SourcesPart(count=count):
            latest: dict[str, PostView] = {}
            for post in lately:
                if post.source_key:
                    latest.setdefault(post.source_key, post)
            return replace(base, link="sources/", posts=list(latest.values())[:count])
        case TablePart():
            columns = _columns_of(posts)
            rows = [RowView(post=post, values=_in_columns(post.fields, columns)) for post in posts]
            has_offers = any(post.offer is not None and not post.has_phrase for post in posts)
            goods = f"goods/?order={part.order.value}" if part.order is not TableOrder.NEWEST else ""
            return replace(base, columns=columns, rows=rows, has_offers=has_offers, all_goods=goods)
        case WordsPart(text=text):
            return replace(base, text=text_to_html(text))
    return base


def _usual_heading(kind: str, which: Which, chooser: _Chooser) -> tuple[str, str]:
    """Return the heading of a part without one of its own, and the address that it leads to."""
    if (section := chooser.section(which.section)) is not None:
        return section.name, f"section/{section.slug}/"
    if (tag := chooser.tag(which.tag)) is not None:
        return f"#{tag.name}", f"tag/{tag.slug}/"
    link = f"source/{which.source}/" if which.source else ""
    return gettext(_HEADINGS[kind]) if kind in _HEADINGS else "", link


def _columns_of(posts: Iterable[PostView]) -> list[str]:
    """Return the labels of fields that posts have, the most frequent first, in a stable order."""
    counted: dict[str, int] = {}
    for post in posts:
        if not post.has_phrase:
            for value in post.fields:
                counted[value.label] = counted.get(value.label, 0) + 1
    return sorted(counted, key=lambda label: -counted[label])[:_COLUMNS]


def _in_columns(fields: Sequence[FieldView], columns: Sequence[str]) -> list[FieldView | None]:
    by_label = {value.label: value for value in fields}
    return [by_label.get(label) for label in columns]


def _is_empty(view: PartView) -> bool:
    """Whether a part has nothing to show.

    The newest says so itself, search and day need nothing.
    """
    return view.kind not in {"newest", "find", "day"} and not (view.posts or view.text)


def _bands(parts: Sequence[Part], views: Sequence[PartView]) -> list[Band]:
    """Return parts in bands: those of the columns that follow each other share one."""
    bands: list[Band] = []
    placed = [(part, view) for part, view in zip(parts, views, strict=True) if not _is_empty(view)]
    for is_whole, group in groupby(placed, key=lambda pair: pair[0].place is Place.WHOLE):
        members = list(group)
        if is_whole:
            bands += [Band(whole=view) for _, view in members]
        else:
            wide = [view for part, view in members if part.place is Place.WIDE]
            bands.append(Band(wide=wide, narrow=[view for part, view in members if part.place is Place.NARROW]))
    return bands
