"""A comment from the page of a post to the desk and back, and the way out of the desk."""

import re

from glyptarch_server.blogs.models import Blog
from glyptarch_server.comments.models import Comment
from glyptarch_server.posts.models import Post
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase


class Readers(LiveCase):
    def test_a_comment_goes_from_a_reader_to_an_editor_and_back_to_the_page(self) -> None:
        blog = Blog.objects.get(slug="dark-meadow")
        Comment.objects.all().delete()
        self.post = Post.objects.filter(blog=blog, state="published").order_by("-date")[0]
        Post.objects.filter(pk=self.post.pk).update(comments=True)
        self.page_of_post = f"http://127.0.0.1:{self.port}/blog/{blog.slug}/{self.post.slug}/"
        with opened() as (page, troubles):
            self.says_something(page)
            self.signs_in(page)
            self.lets_it_through(page)
            self.reads_it(page)
            self.takes_terms_from_a_list(page, blog)
            self.leaves(page)
        self.assertEqual(troubles, [])

    def says_something(self, page: Page) -> None:
        page.goto(self.page_of_post)
        page.get_by_label("Your name").fill("Wren Castell")
        page.get_by_label("What you want to say").fill("We counted <b>nine</b> from the wall.")
        self.is_accessible(page)
        page.get_by_role("button", name="Send").click()
        expect(page.get_by_role("status")).to_have_text("Thank you. An editor reads it before it is shown here.")
        self.assertEqual(Comment.objects.get().state, "waiting")
        page.goto(self.page_of_post)
        expect(page.get_by_text("from the wall")).to_have_count(0)

    def lets_it_through(self, page: Page) -> None:
        page.get_by_role("navigation", name="Sections").get_by_role("link", name=re.compile("^Review")).click()
        kinds = page.get_by_role("navigation", name="Review")
        expect(kinds.get_by_role("link", name="Comments")).to_contain_text("1")
        kinds.get_by_role("link", name=re.compile("^Comments")).click()
        row = page.get_by_role("list", name="Comments").get_by_role("listitem")
        expect(row).to_contain_text("We counted <b>nine</b> from the wall.")
        self.is_accessible(page)
        row.get_by_role("button", name="Show").click()
        expect(row).to_contain_text("Shown")
        expect(kinds.get_by_role("link", name="Comments")).to_contain_text("0")

    def reads_it(self, page: Page) -> None:
        page.goto(self.page_of_post)
        comments = page.get_by_role("region", name="1 comment")
        expect(comments.get_by_role("article")).to_contain_text("We counted <b>nine</b> from the wall.")

    def takes_terms_from_a_list(self, page: Page, blog: Blog) -> None:
        page.goto(f"http://127.0.0.1:{self.port}/desk/{blog.slug}/campaigns/club-syndicate")
        page.get_by_role("button", name=re.compile("^Place")).first.click()
        rules = page.get_by_role("list", name="Category rules")
        rule = rules.get_by_role("group", name=re.compile("meteors"))
        rule.get_by_role("button", name="list").click()
        page.get_by_role("menuitem", name=re.compile("^Not for us")).click()
        expect(rule).to_contain_text("Not for us (4)")
        rule.get_by_role("button", name="Switch off").click()
        rule.get_by_role("button", name="Move category rule meteors up").click()
        expect(rules.get_by_role("group").first).to_contain_text("switched off")
        page.get_by_role("button", name="Discard").click()
        expect(rules.get_by_role("group").first).not_to_contain_text("switched off")

    def leaves(self, page: Page) -> None:
        page.get_by_role("button", name=re.compile("Mira")).click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in to Glyptarch")).to_be_visible()
