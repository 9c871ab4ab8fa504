"""``manage.py load_demo``: fill an empty database with a month of the Dark Meadow Almanac."""

import random
from collections import defaultdict
from contextlib import suppress
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from functools import partial
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from glyptarch_core.campaign import load_document
from glyptarch_core.editions import LanguageDocument
from glyptarch_core.editions.described import READY
from glyptarch_core.item import Right
from glyptarch_core.offers import OfferDocument
from glyptarch_core.schedule import Schedule
from glyptarch_core.text import plain_text

from glyptarch_server.accounts.actions import change_account, ensure_user
from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.actions import add_member, add_term_table, add_word_list, change_appearance, create_blog
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import Role
from glyptarch_server.campaigns.actions import create_campaign, save_revision, set_schedule
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.comments.actions import leave_comment, move_comment
from glyptarch_server.comments.lifecycle import CommentState
from glyptarch_server.common.acting import acting_as
from glyptarch_server.demo.history import PastPortal
from glyptarch_server.demo.scenario import (
    BLOG,
    BLOG_LANGUAGES,
    CAMPAIGNS,
    COMMENTS,
    GUIDE_BODY,
    GUIDE_TITLE,
    LANGUAGE_SERVICES,
    PLATFORMS,
    PODCAST,
    SMALL_BLOGS,
    SOURCES,
    TERM_TABLES,
    TRANSLATED_BLOG,
    TRANSLATED_RULES,
    WORD_LISTS,
    PlatformPlan,
    SmallBlog,
    bulletin_document,
    bulletin_reader,
    document_of_plan,
    films_document,
    podcast_document,
)
from glyptarch_server.editions.actions import save_languages
from glyptarch_server.items.actions import read_and_capture
from glyptarch_server.notices.actions import choose
from glyptarch_server.notices.models import Digest
from glyptarch_server.offers.actions import save_offers
from glyptarch_server.offers.models import Product
from glyptarch_server.pages.actions import make_reader
from glyptarch_server.platforms.actions import check, make_connection
from glyptarch_server.posts.actions import learn_common_text, move_post
from glyptarch_server.posts.changes import Action, begin_change
from glyptarch_server.posts.desk_list import listed_posts
from glyptarch_server.posts.editing import write_post
from glyptarch_server.posts.filters import PostFilter
from glyptarch_server.posts.for_readers import public_posts
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.reads import add_reads
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.carry_out import carry_out_alone
from glyptarch_server.runs.models import Run
from glyptarch_server.services.actions import make_service
from glyptarch_server.sources.adding import add_page_source, add_platform_source, add_source
from glyptarch_server.sources.models import FullText, Source
from glyptarch_server.sources.queries import shop_of
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import Clock

__all__ = ["Command"]

_DAYS = 30
_CHANGE_AFTER = 16
_KEEP_HELD_DAYS = 4
_EACH_DAY = 12
_LIKED = 0.7
_READ_POSTS = 400
_READ_DAYS = 6
# The number of readings after which a change of layout is detected.
_READINGS_OF_BULLETIN = 3
# When the shop was read before.
_HOURS_BEFORE = (200, 170, 140, 110, 80, 50, 26)


class Command(BaseCommand):
    """Load the demo."""

    help = "Fill an empty database with a month of the Dark Meadow Almanac."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add the address of the stand-ins and the password."""
        parser.add_argument("--standins", required=True)
        parser.add_argument("--password", required=True)
        parser.add_argument("--days", type=int, default=_DAYS)

    def handle(self, *_args: Any, standins: str, password: str, days: int, **_options: Any) -> None:  # noqa: ANN401
        """Load everything, or nothing."""
        if Blog.objects.exists():
            self.stdout.write("There are blogs already: the demo is not loaded over them.")
            return
        portal = PastPortal(allowed=settings.GLYPTARCH_FETCH_ALLOW)
        now = datetime.now(UTC).replace(microsecond=0)
        with transaction.atomic():
            _Loader(portal, standins.rstrip("/"), now, days).load(password)
        portal.close()


def _days_with_runs(days: int) -> list[int]:
    """Return the days with runs.

    Each of the last twelve, before them every other, which loads faster.
    """
    return [day for day in range(days + 1) if day > days - _EACH_DAY or day % 2 == 0]


def _frozen_at(at: datetime) -> datetime:
    return at


class _Loader:
    def __init__(self, portal: PastPortal, standins: str, now: datetime, days: int) -> None:
        self._portal = portal
        self._standins = standins
        self._now = now
        self._days = days
        self._random = random.Random(7)  # noqa: S311 - which posts the editor liked

    def load(self, password: str) -> None:
        """Make people, blog, sources and campaigns, then live through the days."""
        first = self._now - timedelta(days=self._days)
        owner, self._editor = (self._person(name, password) for name in ("mira", "edda"))
        blog = create_blog(**BLOG, now=first)
        add_member(blog, owner, Role.OWNER)
        add_member(blog, self._editor, Role.EDITOR)
        add_member(blog, self._person("rolf", password), Role.REVIEWER)
        add_member(blog, self._person("vera", password), Role.VIEWER)
        choose(blog, owner, problems=True, posts=False, digest=Digest.DAILY)
        with acting_as(owner, first):
            campaigns, keys = self._make(blog, owner, first)
        for day in _days_with_runs(self._days):
            self._live(blog, campaigns, first + timedelta(days=day))
            if day == min(_CHANGE_AFTER, self._days):
                for plan, campaign in zip(CAMPAIGNS, campaigns, strict=True):
                    for number, (note, _) in enumerate(plan.revisions[1:], start=1):
                        document = document_of_plan(plan, number, keys)
                        at = first + timedelta(days=day, hours=1)
                        with acting_as(owner, at):
                            save_revision(campaign, document, base=number, by=owner, note=note, now=at)

        for plan, campaign in zip(CAMPAIGNS, campaigns, strict=True):
            schedule = Schedule.model_validate({"when": plan.when})
            with acting_as(owner, self._now):
                set_schedule(campaign, schedule, paused=False, now=self._now)
        self._comments(blog)
        with acting_as(owner, self._now):
            self._bulletin(blog, owner)
            self._platforms(blog, owner)
            self._podcast(blog, owner)
            for small in SMALL_BLOGS:
                self._small_blog(small, owner)
            self._translated(owner)
        self._reads(blog)

    def _translated(self, owner: User) -> None:
        """Make a blog with notes in English, and editions of them in three languages."""
        blog = create_blog(**TRANSLATED_BLOG, now=self._now)
        add_member(blog, owner, Role.OWNER)
        self._portal.at = None
        services = []
        for name, form, path, price in LANGUAGE_SERVICES:
            document = READY[form].model_dump(mode="json") | {"address": f"{self._standins}/lingua/{path}"}
            made = make_service(
                blog,
                name=name,
                document=document,
                secret="lingua-key-of-the-vale",  # noqa: S106 - the stand-in tells it itself
                most_a_day=None,
                price=Decimal(price) if price else None,
                currency="EUR",
                now=self._now,
            )
            services.append(made.key)
        source, _ = add_source(
            blog, f"{self._standins}/observatory/feed", "", right=Right.FULL, fetcher=self._portal, now=self._now
        )
        read_and_capture(source, fetcher=self._portal, clock=partial(_frozen_at, self._now))
        languages = []
        for language, category in BLOG_LANGUAGES:
            text = f"{TRANSLATED_RULES['place']['category']},{category}\n"
            table = add_term_table(blog, f"Names in {language['tag']}", text, now=self._now)
            languages.append({**language, "services": services, "names": table.key})
        save_languages(blog, LanguageDocument.model_validate({"languages": languages}), begun=None)
        gather = {**TRANSLATED_RULES["gather"], "sources": [source.key]}
        rules = load_document({**TRANSLATED_RULES, "gather": gather})
        begin_run(create_campaign(blog, "Observatory", rules, by=owner, now=self._now), by=owner, now=self._now)
        # The run, the making of its editions, and the asking of the services, for which that waits.
        while task := Task.objects.filter(blog=blog, ended_at=None).order_by("-pk").first():
            with suppress(LaterError):
                carry_out_alone(task.pk, fetcher=self._portal, clock=partial(_frozen_at, self._now))

    def _small_blog(self, plan: SmallBlog, owner: User) -> None:
        """Make a blog of one campaign, and publish what its platform gives."""
        blog = create_blog(**plan.blog, now=self._now)
        add_member(blog, owner, Role.OWNER)
        change_appearance(blog, plan.look)
        self._allow_players(blog)
        source = self._platform_source(blog, plan.platform)
        if plan.disclosure:
            self._earlier_prices(blog, source, plan.disclosure)
        document = load_document({**plan.rules, "gather": {"sources": [source.key]}})
        campaign = create_campaign(blog, plan.campaign, document, by=owner, now=self._now)
        run = begin_run(campaign, by=owner, now=self._now, queue=False)
        self._carry_out(run, clock=partial(_frozen_at, self._now))

        if plan.disclosure:
            self._guide(blog)

    def _earlier_prices(self, blog: Blog, source: Source, disclosure: str) -> None:
        """Read a shop as it was on earlier days, then as it is, and say what links to it are worth."""
        host = urlsplit(self._standins).netloc
        partner = {"host": host, "parameters": {"from": blog.slug}}
        basket = {"shop": shop_of(source), "basket": f"{self._standins}/basket?add={{items}}"}
        said = {
            "partners": [partner],
            "shops": [basket],
            "disclosure": disclosure,
            "counts_links": True,
            "has_basket": True,
        }
        save_offers(blog, OfferDocument.model_validate(said), begun=None)
        Product.objects.filter(blog=blog).delete()
        for hours in _HOURS_BEFORE:
            self._portal.at = self._now - timedelta(hours=hours)
            read_and_capture(source, fetcher=self._portal, clock=partial(_frozen_at, self._portal.at))
        self._portal.at = None
        read_and_capture(source, fetcher=self._portal, clock=partial(_frozen_at, self._now))

    def _guide(self, blog: Blog) -> None:
        """Write a guide that compares three products."""
        best = Product.objects.filter(blog=blog, read_at=self._now, price__isnull=False).order_by("-rating", "pk")[:3]
        keys = [product.key for product in best]
        body = GUIDE_BODY.format(keys=" ".join(keys), best=keys[0])
        values = {"title": GUIDE_TITLE, "body": body, "kind": "guide", "categories": ["Guides"]}
        post = write_post(blog, {**values, "excerpt": plain_text(body).partition("\n")[0]}, now=self._now)
        move_post(post, PostState.PUBLISHED, now=self._now)

    def _allow_players(self, blog: Blog) -> None:
        Blog.objects.filter(pk=blog.pk).update(player_hosts=[urlsplit(self._standins).netloc])

    def _platform_source(self, blog: Blog, plan: PlatformPlan) -> Source:
        """Make the connection and the source of a plan, and read it."""
        address = f"{self._standins}/api/{plan.platform}"
        connection = make_connection(
            blog, plan.platform, name=plan.connection, address=address, fields=plan.fields, now=self._now
        )
        check(connection, fetcher=self._portal, now=self._now)
        source = add_platform_source(
            blog,
            plan.platform,
            plan.title,
            connection=connection.key,
            parameters=plan.parameters,
            search_words=[{"text": words, "on": True} for words in plan.words],
            right=Right.FULL,
            now=self._now,
        )
        read_and_capture(source, fetcher=self._portal, clock=partial(_frozen_at, self._now))
        return source

    def _platforms(self, blog: Blog, owner: User) -> None:
        """Make connections and sources on platforms, and a campaign that holds films for review."""
        made = {plan.platform: self._platform_source(blog, plan) for plan in PLATFORMS}
        self._allow_players(blog)
        document = films_document(made["films"].key)
        campaign = create_campaign(blog, "Films from the ridge", document, by=owner, now=self._now)
        run = begin_run(campaign, by=owner, now=self._now, queue=False)
        self._carry_out(run, clock=partial(_frozen_at, self._now))

    def _carry_out(self, run: Run, *, clock: Clock) -> None:
        assert run.task is not None  # noqa: S101 - a new run has its task
        carry_out_alone(run.task.pk, fetcher=self._portal, clock=clock)

    def _podcast(self, blog: Blog, owner: User) -> None:
        """Add the podcast with its texts and chapters, and a campaign that publishes its episodes."""
        self._portal.at = None
        address = f"{self._standins}/{PODCAST}/feed"
        source, _ = add_source(blog, address, "", right=Right.FULL, fetcher=self._portal, now=self._now)
        FullText.objects.create(source=source, words=10)
        source.refresh_from_db()
        clock = partial(_frozen_at, self._now)
        read_and_capture(source, fetcher=self._portal, clock=clock)
        campaign = create_campaign(blog, "Ridge talk", podcast_document(source.key), by=owner, now=self._now)
        run = begin_run(campaign, by=owner, now=self._now, queue=False)
        self._carry_out(run, clock=clock)

    def _bulletin(self, blog: Blog, owner: User) -> None:
        """Create the bulletin's page reader, its source, and a campaign that holds its posts."""
        self._portal.at = None
        url = f"{self._standins}/bulletin/"
        reader = make_reader(blog, "Observatory bulletin", bulletin_reader(url), now=self._now)
        source = add_page_source(blog, reader, "", "Observatory bulletin", right=Right.FULL, now=self._now)
        clock = partial(_frozen_at, self._now)
        for _ in range(_READINGS_OF_BULLETIN):
            read_and_capture(source, fetcher=self._portal, clock=clock)
        document = bulletin_document(source.key)
        campaign = create_campaign(blog, "Bulletin of the ridge", document, by=owner, now=self._now)
        run = begin_run(campaign, by=owner, now=self._now, queue=False)
        self._carry_out(run, clock=clock)

    def _make(self, blog: Blog, owner: User, first: datetime) -> tuple[list[Campaign], dict[str, str]]:
        """Create lists, sources and campaigns.

        Return the campaigns, and the source keys by name.
        """
        for name, words in WORD_LISTS.items():
            add_word_list(blog, name, words, now=first)
        for name, lines in TERM_TABLES.items():
            add_term_table(blog, name, lines, now=first)
        keys = {}
        for name, title in SOURCES.items():
            address = f"{self._standins}/{name}/feed"
            source, _ = add_source(blog, address, title, right=Right.FULL, fetcher=self._portal, now=first)
            keys[name] = source.key
        campaigns = [
            create_campaign(blog, plan.name, document_of_plan(plan, 0, keys), by=owner, now=first) for plan in CAMPAIGNS
        ]
        return campaigns, keys

    def _person(self, name: str, password: str) -> User:
        person = ensure_user(name, password, full_name=name.title())
        change_account(person, full_name=name.title(), email=f"{name}@dark-meadow.invalid")
        return person

    def _reads(self, blog: Blog) -> None:
        """Let readers come: most on the first day of a post, and most to every fifth."""
        rows = public_posts(blog).order_by("-date").values_list("pk", "date", "source")
        by_day: dict[date, dict[int, int]] = defaultdict(dict)
        for place, (number, out, source) in enumerate(rows[:_READ_POSTS]):
            liked = (2 + (source or 0) % 5) * (4 if place % 5 == 0 else 1) + place * 7 % 13
            for age in range(_READ_DAYS):
                day, reads = out.date() + timedelta(days=age), liked * 3 // (1 + age * age)
                if reads and day <= self._now.date():
                    by_day[day][number] = reads
        for day, counts in by_day.items():
            add_reads(counts, day=day)

    def _comments(self, blog: Blog) -> None:
        posts = public_posts(blog).filter(comments=True).order_by("-date")[: len(COMMENTS)]
        for number, (post, (name, text, read)) in enumerate(zip(posts, COMMENTS, strict=False)):
            at = self._now - timedelta(hours=30 - 7 * number)
            comment = leave_comment(post, name=name, text=text, now=at)
            if read:
                with acting_as(self._editor, at + timedelta(hours=1)):
                    move_comment(comment, CommentState.SHOWN, now=at + timedelta(hours=1))

    def _live(self, blog: Blog, campaigns: list[Campaign], day: datetime) -> None:
        for number, campaign in enumerate(campaigns):
            at = min(day + timedelta(minutes=20 * number), self._now)
            self._portal.at = at
            run = begin_run(campaign, by=None, now=at, queue=False)
            self._carry_out(run, clock=partial(_frozen_at, at))
        # As the worker does every few minutes.
        learn_common_text(blog.pk, now=day)
        if day < self._now - timedelta(days=_KEEP_HELD_DAYS):
            self._decide_held(blog, at=day + timedelta(hours=2))

    def _decide_held(self, blog: Blog, *, at: datetime) -> None:
        """Publish some of the held posts and refuse the others."""
        held = [post.pk for post in listed_posts(blog, PostFilter(state=PostState.HELD.value))[:200]]
        liked = {number for number in held if self._random.random() < _LIKED}
        for state, posts in ((PostState.PUBLISHED, liked), (PostState.REFUSED, set(held) - liked)):
            if posts:
                with acting_as(self._editor, at):
                    begin_change(blog, Action.MOVE, {"to": state.value, "seen": PostState.HELD.value}, posts, now=at)
