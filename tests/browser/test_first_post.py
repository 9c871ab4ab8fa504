"""The whole way of a new user, in the real interface on the real servers."""

import re

from glyptarch_server.campaigns.models import Revision
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Reading
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase


class FirstPost(LiveCase):
    def test_a_new_user_comes_from_the_sign_in_to_posts_of_a_feed_of_their_own(self) -> None:
        with opened() as (page, troubles):
            self.signs_in(page)
            self.is_accessible(page)
            self.looks_at_the_bench(page)
            self.changes_a_word_and_saves(page)
            self.adds_a_feed(page)
            self.makes_a_campaign_and_runs_it(page)
            self.reads_the_blog(page)
            self.publishes_what_was_held(page)
        self.assertEqual(troubles, [])

    def looks_at_the_bench(self, page: Page) -> None:
        page.get_by_role("link", name="Comets & meteor showers").click()
        funnel = page.get_by_role("region", name="Funnel of the proof")
        expect(funnel.get_by_role("button")).to_have_count(6)
        items = page.get_by_role("listbox", name="Items")
        items.get_by_role("option").first.click()
        expect(page.get_by_role("list", name="Trace")).to_contain_text("Gather")
        page.get_by_role("radio", name=re.compile("^Kept")).click()
        page.get_by_role("tab", name="Post preview").click()
        expect(page.frame_locator("iframe").locator("article.post h1")).to_be_visible()
        page.get_by_role("tab", name="Trace").click()
        self.is_accessible(page)

    def changes_a_word_and_saves(self, page: Page) -> None:
        asked = self.readings()
        before, decisions = Revision.objects.count(), Decision.objects.count()
        page.get_by_role("button", name=re.compile("^Sift")).click()
        rule = page.get_by_role("group", name="Rule comets")
        rule.get_by_role("button", name="add").click()
        page.get_by_label("Terms: word").fill("evening*, the, of")
        page.keyboard.press("Enter")
        expect(page.get_by_text(re.compile(r"items? changes?: \d+ now kept"))).to_be_visible()
        self.assertEqual((Decision.objects.count(), self.readings()), (decisions, asked))
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name="Discard")).to_have_count(0)
        page.keyboard.press("Control+Shift+z")
        page.get_by_role("button", name="Save as revision 3").click()
        expect(page.get_by_text("Saved as revision 3.").first).to_be_visible()
        self.assertEqual(Revision.objects.count(), before + 1)

    def adds_a_feed(self, page: Page) -> None:
        page.get_by_role("link", name="Sources", exact=True).click()
        page.get_by_role("link", name="Add feeds").click()
        base = f"http://127.0.0.1:{self.outside}"
        page.get_by_label("Addresses of feeds or sites").fill(f"{base}/glasswright/\n{base}/nowhere/feed")
        page.get_by_role("button", name="Read 2 addresses").click()
        results = page.get_by_role("list", name="Results")
        expect(results).to_contain_text("does not exist there (404)")
        results.get_by_role("button", name="Read this one").click()
        expect(results).to_contain_text("RSS 2.0")
        expect(results.get_by_role("list", name="Newest items").get_by_role("listitem")).to_have_count(3)
        results.get_by_role("button", name="Add this feed").click()
        expect(results).to_contain_text("Added as “Glasswright shop notes”, with 12 items")
        self.is_accessible(page)

    def makes_a_campaign_and_runs_it(self, page: Page) -> None:
        page.get_by_role("link", name="New campaign on it").click()
        page.get_by_label("Name").fill("Shop notes")
        expect(page.get_by_role("checkbox", name=re.compile("Glasswright"))).to_be_checked()
        page.get_by_role("radio", name=re.compile("Publish by itself")).click()
        page.get_by_role("button", name="Go on to the bench").click()
        expect(page.get_by_role("heading", name="Shop notes")).to_be_visible()
        page.get_by_role("button", name="Run now").click()
        expect(page.get_by_text("done", exact=True)).to_be_visible()
        expect(page.get_by_role("region", name="Progress")).to_contain_text("12 of 12 decided")
        self.assertGreater(Post.objects.filter(campaign__name="Shop notes", state="published").count(), 0)

    def reads_the_blog(self, page: Page) -> None:
        post = Post.objects.filter(campaign__name="Shop notes", state="published").order_by("-date")[0]
        page.get_by_role("region", name="Progress").get_by_role("button", name=re.compile("published")).click()
        with page.expect_popup() as opened_page:
            page.get_by_role("link", name="On the blog").first.click()
        blog = opened_page.value
        expect(blog.locator("article.post h1")).to_be_visible()
        blog.goto(f"http://127.0.0.1:{self.port}/blog/dark-meadow/{post.slug}/")
        expect(blog.get_by_role("link", name=re.compile("Read on at Glasswright"))).to_be_visible()
        self.is_accessible(blog)
        blog.close()

    def publishes_what_was_held(self, page: Page) -> None:
        held = Post.objects.filter(state="held").count()
        page.get_by_role("link", name=re.compile("^Posts")).click()
        page.get_by_role("radio", name=re.compile("^Held")).click()
        rows = page.locator('tbody[aria-label="Posts"] > tr')
        expect(rows).to_have_count(min(held, 50))
        # Meanwhile runs may hold others.
        chosen = rows.first.get_by_role("link").first.get_attribute("href") or ""
        post = Post.objects.get(pk=int(chosen.rpartition("/")[2]))
        rows.first.get_by_role("checkbox").check()
        page.get_by_role("region", name="Selected posts").get_by_role("button", name="Publish", exact=True).click()
        expect(page.get_by_role("region", name="Selected posts")).to_have_count(0)
        post.refresh_from_db()
        self.assertEqual(post.state, "published")
        page.get_by_role("button", name="Last changes").click()
        page.get_by_role("list", name="Last changes").get_by_role("button", name="Take back").first.click()
        expect(page.get_by_text(re.compile("Took back")).first).to_be_visible()
        page.keyboard.press("Escape")
        post.refresh_from_db()
        self.assertEqual(post.state, "held")
        self.is_accessible(page)

    def readings(self) -> int:
        return Reading.objects.count()
