"""Posts in the real interface: edited, restored, replayed, and given a picture."""

import io
import re

from glyptarch_server.media.models import Picture
from glyptarch_server.posts.models import Post
from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase


class Posts(LiveCase):
    def test_a_person_has_the_last_word_and_can_take_it_back(self) -> None:
        with opened() as (page, troubles):
            self.signs_in(page)
            self.edits_a_post(page)
            self.goes_back_to_what_was_made(page)
            self.finds_what_was_not_saved(page)
            self.adds_a_picture(page)
            self.brings_posts_to_rules(page)
            self.makes_a_rule_of_a_refusal(page)
            self.takes_a_run_back(page)
        # The browser reports the refused upload.
        self.assertEqual([trouble for trouble in troubles if "422" not in trouble], [])

    def desk(self, path: str) -> str:
        return f"http://127.0.0.1:{self.port}/desk/dark-meadow/{path}"

    def on_the_blog(self, page: Page, slug: str) -> str:
        return page.request.get(f"http://127.0.0.1:{self.port}/blog/dark-meadow/{slug}/").text()

    def edits_a_post(self, page: Page) -> None:
        self.post = Post.objects.filter(state="published", campaign__slug="club-syndicate").latest("date")
        page.goto(self.desk(f"posts/{self.post.pk}"))
        page.get_by_role("link", name="Edit").click()
        body = page.get_by_role("textbox", name="Body")
        body.click()
        page.keyboard.press("Control+End")
        page.get_by_role("button", name="Bold").click()
        # The editor takes the focus back in the next frame.
        expect(body).to_be_focused()
        page.keyboard.type(" Added by hand.")
        page.get_by_role("radio", name="As the blog shows it").click()
        expect(page.frame_locator("iframe").get_by_text("Added by hand.")).to_be_visible()
        page.get_by_role("radio", name="Source", exact=True).click()
        # The post may end with a line in italics, which go on.
        written = re.compile("<strong>(<em>)? Added by hand.(</em>)?</strong>")
        expect(page.get_by_label("Source of the body")).to_have_value(written)
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text(re.compile("^Saved:")).first).to_be_visible()
        self.assertIn("Added by hand.", self.on_the_blog(page, self.post.slug))

    def goes_back_to_what_was_made(self, page: Page) -> None:
        page.get_by_role("radio", name="History").click()
        history = page.get_by_role("list", name="History")
        expect(history.get_by_text("Added by hand.")).to_be_visible()
        self.is_accessible(page)
        history.get_by_role("button", name="Go back to this").last.click()
        page.get_by_role("alertdialog").get_by_role("button", name="Go back").click()
        expect(history.get_by_role("listitem")).to_have_count(3)
        self.assertNotIn("Added by hand.", self.on_the_blog(page, self.post.slug))

    def finds_what_was_not_saved(self, page: Page) -> None:
        page.get_by_label("Excerpt").fill("Not saved yet.")
        page.get_by_role("link", name="Posts").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Leave").click()
        page.goto(self.desk(f"posts/{self.post.pk}/edit"))
        expect(page.get_by_label("Excerpt")).to_have_value("Not saved yet.")
        page.get_by_role("button", name="Discard these edits").click()

    def adds_a_picture(self, page: Page) -> None:
        drawn = io.BytesIO()
        Image.new("RGB", (800, 500), "navy").save(drawn, "PNG")
        page.goto(self.desk("pictures"))
        svg = {"name": "logo.svg", "mimeType": "image/svg+xml", "buffer": b"<svg xmlns='http://www.w3.org/2000/svg'/>"}
        png = {"name": "night.png", "mimeType": "image/png", "buffer": drawn.getvalue()}
        page.get_by_label("Pictures to add").set_input_files([png, svg])
        expect(page.get_by_text("1 picture added.")).to_be_visible()
        expect(page.get_by_role("alert")).to_contain_text("can hold scripts")
        page.get_by_role("list", name="Pictures").get_by_role("button", name=re.compile("night.png")).click()
        page.get_by_role("button", name=re.compile("^Focus at")).press("ArrowUp")
        page.get_by_label("Labels").fill("night")
        self.is_accessible(page)
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertEqual(Picture.objects.get(labels=["night"]).focus_y, 0.45)

    def brings_posts_to_rules(self, page: Page) -> None:
        page.goto(self.desk("campaigns/club-syndicate/replay"))
        page.get_by_role("button", name="Compare").click()
        expect(page.get_by_role("button", name="Compare again")).to_be_enabled()
        self.is_accessible(page)
        changed = page.get_by_role("region", name="Changed")
        if changed.get_by_role("listitem").count():
            changed.get_by_role("button", name="Differences").first.click()
            changed.get_by_role("button", name=re.compile("^Apply to all")).click()
            page.get_by_role("alertdialog").get_by_role("button", name="Apply").click()
            expect(page.get_by_text(re.compile(r"\d+ posts? changed"))).to_be_visible()
            expect(page.get_by_role("button", name="Take back", exact=True)).to_be_visible()
            expect(changed.get_by_role("button", name=re.compile("^Apply to all"))).to_have_count(0)

    def makes_a_rule_of_a_refusal(self, page: Page) -> None:
        held = Post.objects.filter(state="held").count()
        page.goto(self.desk("review"))
        expect(page.get_by_role("complementary", name="Why it is held")).to_be_visible()
        page.keyboard.press("r")
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Reason").fill("too short")
        dialog.get_by_label(re.compile("^Refuse what has no more than")).check()
        dialog.get_by_role("button", name="Refuse and open the bench").click()
        rules = page.get_by_role("region", name="Rules of Sift")
        expect(rules.get_by_text("too short").first).to_be_visible()
        expect(page.get_by_text("1 change not saved")).to_be_visible()
        self.assertEqual(Post.objects.filter(state="held").count(), held - 1)
        page.get_by_role("button", name="Discard").click()
        page.goto(self.desk("review"))
        expect(page.get_by_role("complementary", name="Why it is held")).to_be_visible()
        page.keyboard.press("u")
        expect(page.get_by_text(re.compile("^Taken back"))).to_be_visible()
        self.assertEqual(Post.objects.filter(state="held").count(), held)

    def takes_a_run_back(self, page: Page) -> None:
        page.goto(self.desk("runs"))
        page.get_by_role("row", name=re.compile("Ridge talk")).first.get_by_role("link").first.click()
        page.get_by_role("button", name="Take back…").click()
        page.get_by_role("dialog").get_by_role("button", name="Take it back").click()
        expect(page.get_by_text(re.compile("taken back \\d"))).to_be_visible()
        self.assertEqual(Post.objects.filter(campaign__slug="ridge-talk").exclude(state="binned").count(), 0)
