"""A blog with very many campaigns, sources and held posts.

Some of their names are long or run from right to left.
"""

import re
from datetime import timedelta

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.adding import NewSource, add_sources
from glyptarch_server.sources.models import Source
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase

_LONG = "Observations of the society of friends of the night sky in the lower valley of the Orrin, " * 2
_FROM_RIGHT = "رصد النجوم من السهول المظلمة"
_CAMPAIGNS, _SOURCES, _HELD = 500, 300, 2000
_WIDTHS = (1280, 1024)


def _named(kind: str, number: int) -> str:
    """Return a name: every tenth is long, every eleventh runs from right to left."""
    if number % 10 == 0:
        return f"{kind} {number} {_LONG}"[:120]
    return f"{_FROM_RIGHT} {kind} {number}" if number % 11 == 0 else f"{kind} {number}"


def _many_sources(blog: Blog) -> None:
    new = [NewSource(url=f"https://club-{n}.example/feed", title=_named("Club", n)) for n in range(_SOURCES)]
    add_sources(blog, new, now=Post.objects.earliest("pk").created_at)


def _many_campaigns(blog: Blog) -> None:
    model = Campaign.objects.filter(blog=blog)[0]
    document = Revision.objects.filter(campaign=model).latest("number").document
    last = Source.objects.get(blog=blog, title="Club 299")
    made = Campaign.objects.bulk_create(
        Campaign(blog=blog, slug=f"many-{n}", name=_named("Campaign", n), created_at=model.created_at)
        for n in range(_CAMPAIGNS)
    )
    gather = {**document["gather"], "sources": [last.key]}
    Revision.objects.bulk_create(
        Revision(campaign=row, number=1, document={**document, "gather": gather}, saved_at=model.created_at)
        for row in made
    )


def _many_held(blog: Blog) -> None:
    model = Post.objects.filter(blog=blog, state="held").latest("pk")
    fields = [field.attname for field in Post._meta.concrete_fields if not (field.primary_key or field.generated)]
    own = {"campaign_id", "revision_id", "item_id", "source_id", "slug", "title", "date"}
    values = {name: getattr(model, name) for name in fields if name not in own}
    revisions = list(Revision.objects.filter(campaign__slug__startswith="many-").order_by("pk"))
    items = Item.objects.filter(source__blog=blog).order_by("pk")[: _HELD // _CAMPAIGNS]
    origins = [(revision, item) for item in items for revision in revisions]
    Post.objects.bulk_create(
        Post(
            **values,
            campaign_id=revision.campaign_id,
            revision=revision,
            item=item,
            source_id=item.source_id,
            slug=f"many-{n}",
            title=_named("Story", n),
            date=model.date - timedelta(minutes=n),
        )
        for n, (revision, item) in enumerate(origins)
    )


class Many(LiveCase):
    def setUp(self) -> None:
        super().setUp()
        blog = Blog.objects.get(slug="dark-meadow")
        _many_sources(blog)
        _many_campaigns(blog)
        _many_held(blog)

    def test_everything_can_be_found_and_chosen(self) -> None:
        with opened() as (page, troubles):
            self.signs_in(page, campaigns=10)
            self.everything_fits(page)
            self.a_campaign_is_found_and_all_are_picked(page)
            self.a_source_is_found_and_those_of_a_campaign_are_shown(page)
            self.a_new_campaign_gets_a_source_from_the_end(page)
            self.posts_of_a_campaign_are_found(page)
            self.held_posts_are_gone_through(page)
        self.assertEqual(troubles, [])

    def desk(self, path: str) -> str:
        return f"http://127.0.0.1:{self.port}/desk/dark-meadow/{path}"

    def everything_fits(self, page: Page) -> None:
        for path in ("today", "campaigns", "campaigns/new", "campaigns/many-0", "campaigns/many-11", "sources", "posts",
                     "review", "runs", "decisions"):  # fmt: skip
            page.goto(self.desk(path))
            expect(page.locator("h1")).to_have_count(1)
            for width in _WIDTHS:
                page.set_viewport_size({"width": width, "height": 800})
                wider = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
                self.assertLessEqual(wider, 0, f"{path} at {width} px")

    def a_campaign_is_found_and_all_are_picked(self, page: Page) -> None:
        page.goto(self.desk("campaigns"))
        rows = page.get_by_role("list", name="Campaigns").get_by_role("listitem")
        page.get_by_label("Find a campaign").fill("campaign 437")
        expect(rows).to_have_count(1)
        page.get_by_label("Find a campaign").fill("campaign 4")
        expect(rows.first).to_contain_text("ampaign 4")
        page.get_by_label("Pick all campaigns of this page").check()
        page.get_by_role("button", name=re.compile(r"^Pick all \d+ found")).click()
        expect(page.get_by_text("111 campaigns picked")).to_be_visible()

    def a_source_is_found_and_those_of_a_campaign_are_shown(self, page: Page) -> None:
        page.goto(self.desk("sources"))
        page.get_by_label("Find a source").fill("club 288")
        expect(page.get_by_role("link", name="Club 288")).to_be_visible()
        page.goto(self.desk("campaigns/many-3"))
        page.get_by_role("region", name="Funnel of the proof").get_by_role("button", name=re.compile("^Gather")).click()
        expect(page.get_by_role("checkbox", name="Club 299")).to_be_checked()
        page.get_by_label("Find a source").fill("club 288")
        page.get_by_role("checkbox", name="Club 288").check()
        page.get_by_label("Find a source").fill("")
        for chosen in ("Club 288", "Club 299"):
            expect(page.get_by_role("checkbox", name=chosen)).to_be_checked()

    def a_new_campaign_gets_a_source_from_the_end(self, page: Page) -> None:
        page.goto(self.desk("campaigns/new"))
        page.get_by_label("Find a source").fill("club 277")
        page.get_by_role("checkbox", name="Club 277").check()
        page.get_by_label("Find a source").fill("")
        expect(page.get_by_role("checkbox", name="Club 277")).to_be_checked()

    def posts_of_a_campaign_are_found(self, page: Page) -> None:
        page.goto(self.desk("posts"))
        page.get_by_role("button", name="Campaign: every campaign").click()
        page.get_by_placeholder("Find a campaign").fill("campaign 437")
        page.get_by_role("option", name="Campaign 437").click()
        expect(page.get_by_role("button", name="Campaign: Campaign 437")).to_be_visible()
        # Four stories, each 500 after the one before it.
        expect(page.get_by_role("row").filter(has_text="Story")).to_have_count(4)

    def held_posts_are_gone_through(self, page: Page) -> None:
        page.goto(self.desk("review"))
        shown = page.get_by_role("heading", level=1)
        expect(shown).to_be_visible()
        for _ in range(3):
            page.keyboard.press("j")
        expect(page.get_by_text(re.compile("2,0[0-9][0-9]")).first).to_be_visible()
