"""A film on the blog: nothing is loaded from its host before a reader presses Play."""

from glyptarch_server.posts.models import Post
from playwright.sync_api import expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase


class Film(LiveCase):
    def test_the_player_is_loaded_on_a_click(self) -> None:
        post = Post.objects.filter(campaign__slug="films-from-the-ridge", state="held").order_by("-date")[0]
        Post.objects.filter(pk=post.pk).update(state="published")
        asked: list[str] = []
        with opened() as (page, troubles):
            page.on("request", lambda request: asked.append(request.url))
            page.goto(f"http://127.0.0.1:{self.port}/blog/dark-meadow/{post.slug}/")
            self.is_accessible(page)
            self.assertFalse([url for url in asked if "/player/" in url])
            page.get_by_text("Play the film").click()
            expect(page.frame_locator("iframe[title^='Film:']").get_by_text("plays here")).to_be_visible()
            self.assertEqual(len([url for url in asked if "/player/" in url]), 1)
            box = page.locator("iframe[title^='Film:']").bounding_box()
            assert box is not None
            self.assertAlmostEqual(box["width"] / box["height"], 1.7778, places=1)
        self.assertEqual(troubles, [])
