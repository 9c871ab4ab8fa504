"""Every screen, stage and dialog: accessible in both themes, named, usable when narrow."""

import re

from glyptarch_server.offers.models import Product
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from playwright.sync_api import Page, expect

from tests.browser.driver import moves_to, opened
from tests.browser.live import LiveCase
from tests.processes import until

STAGES = ("Gather", "Sift", "Match", "Shape", "Place", "Release")
DIALOGS = (
    "Why is nothing arriving?",
    "Revisions",
    "Defaults of the blog",
    "Rules as YAML",
    "Decide items again",
    "Run again from nothing",
    "Rename",
    "Mail address for its runs",
    "Archive",
)
BENCH = "campaigns/comets-meteor-showers"


class Screens(LiveCase):
    def test_all_are_accessible_named_and_fit_narrow_windows(self) -> None:
        with opened() as (page, troubles):
            self.is_accessible_in_both_themes(page, f"http://127.0.0.1:{self.port}/")
            self.signs_in(page)
            self.every_screen(page)
            self.every_stage_and_tab(page)
            self.every_dialog(page)
            self.the_schedule(page)
            self.many_posts(page)
            self.the_review_desk(page)
            self.moves_a_step_by_the_keyboard(page)
            self.asks_before_leaving(page)
        self.assertEqual(troubles, [])

    def desk(self, path: str) -> str:
        return f"http://127.0.0.1:{self.port}/desk/dark-meadow/{path}"

    def is_accessible_in_both_themes(self, page: Page, url: str) -> None:
        moves_to(page, url)
        expect(page.locator("h1"), url).to_have_count(1)
        for theme in ("light", "dark"):
            page.evaluate("theme => { document.documentElement.dataset.theme = theme }", theme)
            self.is_accessible(page, colours_alone=theme == "dark")

    def fits(self, page: Page, url: str) -> None:
        for width in (1024, 640):
            page.set_viewport_size({"width": width, "height": 800})
            wider = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
            self.assertLessEqual(wider, 0, f"{url} at {width} px")
        page.set_viewport_size({"width": 1280, "height": 800})

    def every_screen(self, page: Page) -> None:
        run = Run.objects.filter(campaign__blog__slug="dark-meadow").latest("pk")
        post = Post.objects.filter(state="held")[0]
        gear = "../orrin-gear/offers"
        product = Product.objects.filter(price__isnull=False)[0]
        titles = set()
        paths = ("today", "reads", "campaigns", "campaigns/new", "runs", "decisions", f"runs/{run.pk}", "posts", f"posts/{post.pk}", "comments",
                 f"posts/{post.pk}/edit", "posts/new", f"{BENCH}/replay", "pictures", "recordings", "takedowns",
                 "word-lists", "sources", "sources/add", "sources/meadowlark-club", "review", "names/category",
                 "names/tag", "connections", "platform-sources/new", "platform-sources/new?platform=films",
                 "sources/films-from-the-ridge", "readers", "readers/new", "readers/observatory-bulletin", "people", "settings", "look", "languages", "services", "retention", "blog-file",
                 "audit", "account", "api", BENCH,
                 gear, f"{gear}/clicks", f"{gear}/rules", f"{gear}/{product.pk}")  # fmt: skip
        for path in paths:
            self.is_accessible_in_both_themes(page, self.desk(path))
            titles.add(page.title())
            self.fits(page, path)
        self.assertEqual(len(titles), len(paths), titles)

    def every_stage_and_tab(self, page: Page) -> None:
        page.goto(self.desk(BENCH))
        funnel = page.get_by_role("region", name="Funnel of the proof")
        for stage in STAGES:
            funnel.get_by_role("button", name=re.compile(f"^{stage}")).click()
            self.is_accessible(page)
        for tab in ("Fields", "Post preview", "Source text", "Trace"):
            page.get_by_role("tab", name=tab).click()
            self.is_accessible(page)

    def every_dialog(self, page: Page) -> None:
        for name in DIALOGS:
            page.get_by_role("button", name="More").click()
            page.get_by_role("menuitem", name=name).click()
            dialog = page.get_by_role("dialog")
            expect(dialog).to_be_visible()
            expect(dialog.get_by_role("button", name="Close")).not_to_be_focused()
            self.is_accessible(page)
            page.keyboard.press("Escape")
            expect(dialog).to_have_count(0)
            expect(page.get_by_role("button", name="More")).to_be_focused()

    def many_posts(self, page: Page) -> None:
        """Select, change, delete and restore posts, with every dialog and menu accessible."""
        page.goto(self.desk("posts?state=held"))
        page.get_by_label("Select all on this page").check()
        bar = page.get_by_role("region", name="Selected posts")
        self.is_accessible(page)
        bar.get_by_role("button", name="Delete…").click()
        expect(page.get_by_role("dialog").get_by_text("held")).to_be_visible()
        self.is_accessible(page)
        page.get_by_role("dialog").get_by_role("button", name="Delete").click()
        expect(bar).to_have_count(0)
        page.get_by_role("button", name="Last changes").click()
        self.is_accessible(page)
        page.get_by_role("list", name="Last changes").get_by_role("button", name="Take back").first.click()
        expect(page.get_by_text(re.compile("Took back")).first).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("row").nth(1)).to_be_visible()

    def the_review_desk(self, page: Page) -> None:
        page.goto(self.desk("review"))
        page.get_by_role("complementary", name="Why it is held").get_by_text("Like it").wait_for()
        for key in ("s", "r", "l", "?"):
            page.keyboard.press(key)
            expect(page.get_by_role("dialog")).to_be_visible()
            self.is_accessible(page)
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)

    def the_schedule(self, page: Page) -> None:
        page.get_by_role("button", name="Schedule, next run").click()
        dialog = page.get_by_role("dialog")
        for kind in ("Every …", "Cron", "At times of day"):
            dialog.get_by_role("radio", name=kind).click()
            expect(dialog.get_by_role("region", name="Next times").get_by_role("listitem")).to_have_count(5)
            self.is_accessible(page)
        dialog.get_by_role("button", name="Save the schedule").click()
        expect(dialog).to_have_count(0)
        expect(page.get_by_role("button", name="Schedule, next run")).not_to_contain_text("by hand")

    def moves_a_step_by_the_keyboard(self, page: Page) -> None:
        page.goto(self.desk(BENCH))
        page.get_by_role("region", name="Funnel of the proof").get_by_role("button", name=re.compile("^Shape")).click()
        page.get_by_role("button", name="Add a step").click()
        page.get_by_role("menuitem", name=re.compile("^Tidy up")).click()
        steps = page.get_by_role("list", name="Steps").get_by_role("listitem")
        expect(steps).to_have_count(2)
        handle = steps.nth(1).get_by_role("button", name=re.compile("^Drag step"))
        name = (handle.get_attribute("aria-label") or "").removeprefix("Drag step ")
        handle.focus()
        page.keyboard.press("Space")
        expect(page.locator("[id^='DndLiveRegion']")).to_contain_text("number 2 of 2")
        # The list ignores keys until it has been measured.
        self.assertTrue(until(lambda: self.moves_up(page), seconds=20))
        page.keyboard.press("Space")
        expect(steps.nth(0).get_by_role("group", name=f"Step {name}")).to_be_visible()
        page.get_by_role("button", name="Discard").click()

    def moves_up(self, page: Page) -> bool:
        page.keyboard.press("ArrowUp")
        return "number 1 of 2" in (page.locator("[id^='DndLiveRegion']").text_content() or "")

    def asks_before_leaving(self, page: Page) -> None:
        page.get_by_role("button", name="Add a step").click()
        page.get_by_role("menuitem", name=re.compile("^Tidy up")).click()
        page.get_by_role("link", name="Sources").click()
        question = page.get_by_role("alertdialog")
        expect(question).to_contain_text("not saved")
        self.is_accessible(page)
        question.get_by_role("button", name="Leave").click()
        expect(page.get_by_role("heading", name="Sources")).to_be_visible()
        page.goto(self.desk(BENCH))
        expect(page.get_by_text("They are back, from a draft")).to_be_visible()
        page.get_by_role("button", name="Discard these edits").click()
        expect(page.get_by_text("They are back, from a draft")).to_have_count(0)
