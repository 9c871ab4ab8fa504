"""Each front of a blog, in either direction of writing.

It is accessible by day and by night, and no wider than its window.
"""

import time

from glyptarch_server.blogs.models import Blog
from playwright.sync_api import Page

from tests.browser.driver import opened
from tests.browser.live import LiveCase

_FRONTS = ("magazine", "journal", "guide", "screening", "class")
_WIDTHS = (320, 1280, 1920)
_SECONDS_TO_HEAR = 5.0


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
