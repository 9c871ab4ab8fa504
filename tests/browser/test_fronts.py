"""Each front of a blog, in either direction of writing.

It is accessible by day and by night, and no wider than its window.
"""

import re
import time

from glyptarch_server.blogs.models import Blog
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase

_FRONTS = ("magazine", "journal", "guide", "screening", "class")
_WIDTHS = (320, 1280, 1920)
_SECONDS_TO_HEAR = 5.0
_PAPER = "getComputedStyle(document.body).backgroundColor"


class Fronts(LiveCase):
    def test_each_can_be_read_by_everybody(self) -> None:
        blog = Blog.objects.get(slug="orrin-gear")
        with opened() as (page, troubles):
            for language, direction in (("en", "ltr"), ("ar", "rtl")):
                for front in _FRONTS:
                    blog.language, blog.appearance = language, {"front": front}
                    blog.save()
                    with self.subTest(f"{front}, {language}"):
                        self.is_readable(page, front, direction)
        self.assertEqual(troubles, [])

    def test_a_reader_chooses_colours_for_all_pages_and_copies_an_address(self) -> None:
        with opened() as (page, troubles):
            page.context.grant_permissions(["clipboard-read", "clipboard-write"])
            page.emulate_media(color_scheme="light")
            page.goto(f"http://127.0.0.1:{self.port}/blog/dark-meadow/")
            day = page.evaluate(_PAPER)
            press = page.get_by_role("button", name=re.compile("^Colours"))
            expect(press).to_have_text("Colours: as the device")
            press.click()
            press.click()
            expect(press).to_have_text("Colours: by night")
            night = page.evaluate(_PAPER)
            self.assertNotEqual(night, day)
            page.locator("h2 a, h3 a").first.click()
            expect(press).to_have_text("Colours: by night")
            self.assertEqual(page.evaluate(_PAPER), night)
            self.is_accessible(page)
            if page.evaluate("'share' in navigator"):
                expect(page.get_by_role("button", name="Share")).to_be_visible()
            else:
                page.get_by_role("button", name="Copy the address").click()
                expect(page.get_by_role("button", name="The address is copied")).to_be_visible()
                self.assertIn("/blog/dark-meadow/", page.evaluate("navigator.clipboard.readText()"))
        self.assertEqual(troubles, [])

    def is_readable(self, page: Page, front: str, direction: str) -> None:
        self.opens(page, f"html.front-{front}[dir={direction}]")
        for scheme in ("light", "dark"):
            page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
            self.is_accessible(page, colours_alone=scheme == "dark")
        for width in _WIDTHS:
            page.set_viewport_size({"width": width, "height": 800})
            wider = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
            self.assertLessEqual(wider, 0, f"at {width} px")
            if width == _WIDTHS[0]:
                self.is_accessible(page)

    def opens(self, page: Page, selector: str) -> None:
        """Ask for the blog until its page has an element.

        The server hears of a change a moment after it is written, and gives out its kept page until then.
        """
        deadline = time.monotonic() + _SECONDS_TO_HEAR
        while True:
            page.goto(f"http://127.0.0.1:{self.port}/blog/orrin-gear/")
            if page.locator(selector).count():
                return
            self.assertLess(time.monotonic(), deadline, f"no {selector} after {_SECONDS_TO_HEAR} s")
