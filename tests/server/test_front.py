"""The public pages of a blog, and its feeds."""

import io

import feedparser
from django.test import Client, TestCase
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run


class PublicPages(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        fill(self.source, range(20))
        fill(self.source, [50], title="<b>Bold</b> & 彗星", body="<p>x<script>bad()</script></p>", published=NOW)
        run(make_campaign(self.blog, place={"category": "Sky & stars", "tags": ["night"], "byline": "Desk"}))
        self.client = Client()

    def page(self, path: str = "") -> str:
        response = self.client.get(f"/blog/meadow/{path}")
        self.assertEqual(response.status_code, 200, path)
        return response.content.decode()

    def test_the_front_page_is_paged_newest_first(self) -> None:
        first, second = self.page(), self.page("?page=2")
        self.assertIn("Story number 0 of", first)
        self.assertIn("Story number 19 of", second)
        self.assertNotIn("Story number 19 of", first)
        self.assertIn('rel="next" href="?page=2"', first)

    def test_sections_and_tags_gather_posts(self) -> None:
        self.assertIn("Story number 0 of", self.page("section/sky-stars/"))
        self.assertIn("#night", self.page("tag/night/"))
        for path in ("section/none/", "tag/none/", "no-such-post/"):
            self.assertEqual(self.client.get(f"/blog/meadow/{path}").status_code, 404)

    def test_a_post_names_its_original(self) -> None:
        page = self.page("story-number-3-of-the-night/")
        self.assertIn('<link rel="canonical" href="https://club.example/3">', page)
        self.assertIn("Read on at Club", page)
        self.assertIn('property="og:title" content="Story number 3 of the night"', page)

    def test_what_a_source_wrote_cannot_run(self) -> None:
        page = self.page("b-bold-b-彗-星/")
        self.assertIn("&lt;b&gt;Bold&lt;/b&gt; &amp; 彗星", page)
        self.assertNotIn("bad()", page)
        self.assertIn("script-src 'self'", self.client.get("/blog/meadow/")["Content-Security-Policy"])

    def test_only_published_posts_are_to_be_seen(self) -> None:
        post = Post.objects.get(slug="story-number-3-of-the-night")
        move_post(post, PostState.HELD, now=NOW)
        self.assertEqual(self.client.get(f"/blog/meadow/{post.slug}/").status_code, 404)
        self.assertNotIn("Story number 3 of", self.page())

    def test_rss_and_atom_can_be_read_by_a_feed_reader(self) -> None:
        for path, version in (("feed.xml", "rss20"), ("atom.xml", "atom10")):
            with self.subTest(path):
                feed = feedparser.parse(io.BytesIO(self.client.get(f"/blog/meadow/{path}").content))
                self.assertEqual((feed.version, len(feed.entries), feed.bozo), (version, 21, False))
                self.assertTrue(feed.entries[0].link.startswith("http://testserver/blog/meadow/"))

    def test_a_page_needs_few_queries_whatever_its_length(self) -> None:
        with self.assertNumQueries(7):
            self.page()

    def test_an_empty_blog_says_so(self) -> None:
        make_blog("empty")
        self.assertIn("Nothing has been published", self.client.get("/blog/empty/").content.decode())
