"""A page reader in the real interface: proposed, picked, tested, saved as a source.

Nothing runs in the frame.
"""

import re
from urllib.parse import urlsplit

from glyptarch_server.items.models import Item
from glyptarch_server.pages.models import Reader
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase


class PageReader(LiveCase):
    def test_a_site_without_a_feed_becomes_a_source(self) -> None:
        with opened() as (page, troubles):
            self.signs_in(page)
            self.opens(page, "bulletin/sky/")
            self.agrees_and_points(page)
            self.tries_it(page)
            self.keeps_it(page)
            self.is_told_of_a_new_layout(page)
        self.assertEqual(troubles, [])

    def opens(self, page: Page, path: str) -> None:
        page.goto(f"http://127.0.0.1:{self.port}/desk/dark-meadow/readers/new")
        page.get_by_label("Address of a page that lists articles").fill(f"http://127.0.0.1:{self.outside}/{path}")
        page.get_by_role("button", name="Open the page").click()
        expect(page.get_by_role("application")).to_be_visible()

    def agrees_and_points(self, page: Page) -> None:
        expect(page.get_by_role("heading", name="8 articles in the list")).to_be_visible()
        self.is_accessible(page)
        excerpt = page.get_by_role("region", name="Excerpt")
        excerpt.get_by_label("Selector of Excerpt").fill("h2 >>")
        expect(excerpt.get_by_role("alert")).to_contain_text("Character 5")
        excerpt.get_by_label("Selector of Excerpt").fill("nothing-here")
        expect(excerpt).to_contain_text("It finds nothing in this page.")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Selector of Excerpt")).to_have_value("nothing-here")
        excerpt = page.get_by_role("region", name="Excerpt")
        if excerpt.count() == 0:
            page.get_by_role("button", name="Excerpt").click()
        excerpt.get_by_role("button", name="Point").click()
        first = page.frame_locator("iframe[title='List page']").locator("article.note p").first
        box = first.bounding_box()
        assert box is not None
        page.mouse.click(box["x"] + 20, box["y"] + 8)
        expect(excerpt.get_by_label("Selector of Excerpt")).to_have_value(re.compile("article.note p"))
        expect(excerpt).to_contain_text("8 of 8")

    def tries_it(self, page: Page) -> None:
        page.get_by_role("button", name="Test on sample articles").click()
        # The first one shows the values of each field.
        table = page.get_by_role("table").last
        expect(table.get_by_role("row")).to_have_count(7)
        expect(table.get_by_label("Title is fine").first).to_be_visible()
        self.is_accessible(page)
        table.get_by_role("row").nth(1).get_by_role("button").first.click()
        expect(page.frame_locator("iframe[title^='Text of']").locator("p").first).to_be_visible()

    def keeps_it(self, page: Page) -> None:
        page.get_by_label("Name", exact=True).fill("Ridge sky")
        page.get_by_role("button", name="Save reader").click()
        page.get_by_role("button", name="Make it a source").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Ridge sky")
        expect(page.get_by_text(re.compile(r"\d+ new articles? read"))).to_be_visible()
        self.assertGreater(Item.objects.filter(source__title="Ridge sky").count(), 4)

    def is_told_of_a_new_layout(self, page: Page) -> None:
        for _ in range(2):
            page.get_by_role("button", name="Read now").click()
            expect(page.get_by_text("no new article").first).to_be_visible()
            page.reload()
        page.request.post(f"http://127.0.0.1:{self.outside}/control", form={"layout": "2"})
        page.get_by_role("button", name="Read now").click()
        expect(page.get_by_text("Layout has changed")).to_be_visible()
        page.get_by_role("link", name="Page reader").click()
        told = page.get_by_role("region", name="The layout has changed")
        expect(told).to_contain_text("Article link found 8, now 0")
        expect(told).to_contain_text("Sure.")
        self.is_accessible(page)
        told.get_by_role("button", name="Take the mend").click()
        expect(told).to_have_count(0)
        self.assertIsNotNone(Reader.objects.get(name="Ridge sky").mended_at)

    def test_a_hostile_page_runs_nothing_and_calls_nobody(self) -> None:
        with opened() as (page, _):
            self.signs_in(page)
            # Leave the screen whose pictures may still be loading.
            page.goto(f"http://127.0.0.1:{self.port}/desk/dark-meadow/readers/new")
            page.wait_for_load_state("networkidle")
            asked: list[str] = []
            page.on("request", lambda request: asked.append(request.url))
            self.opens(page, "bulletin/hostile/")
            frame = page.frame_locator("iframe[title='List page']")
            expect(frame.get_by_text("There is a text here")).to_be_attached()
            expect(frame.locator("meta[http-equiv='refresh' i]")).to_have_count(0)
            page.wait_for_load_state("networkidle")
            hosts = {urlsplit(url).netloc for url in asked if not url.startswith(("data:", "blob:", "about:"))}
            self.assertEqual(hosts, {f"127.0.0.1:{self.port}"})
            self.assertNotIn("taken", page.title())
            self.assertIn("/readers/new", page.url)
            self.assertEqual(page.evaluate("navigator.serviceWorker.getRegistrations().then(all => all.length)"), 0)
            self.assertIsNone(page.evaluate("window.x ?? null"))
