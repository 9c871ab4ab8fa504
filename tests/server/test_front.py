"""The public pages of a blog, and its feeds."""

import io
import json
import tempfile
from pathlib import Path
from typing import Any

import feedparser
from django.core.cache import cache
from django.template.loader import render_to_string
from django.test import Client, SimpleTestCase, TestCase, override_settings
from glyptarch_core.appearance import Look
from glyptarch_core.draft import Visibility
from glyptarch_server.blogs.actions import create_blog
from glyptarch_server.blogs.models import Blog, Category
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.blog_changes import changes
from glyptarch_server.front import assets
from glyptarch_server.front.around import blog_context
from glyptarch_server.front.pages import PostView, whole_words
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

    def test_a_reader_may_choose_colours_and_share_in_the_words_of_the_blog(self) -> None:
        Blog.objects.update(language="de")
        post = Post.objects.filter(title__startswith="Story")[0]
        page = self.page(f"{post.slug}/")
        self.assertIn('data-night="Farben: Nacht"', page)
        self.assertIn('data-share="Teilen"', page)
        self.assertNotIn("data-passing", self.page())
        Blog.objects.update(appearance={"front": "screening"})
        self.assertNotIn("data-colours", self.page())

    def test_the_script_of_readers_is_the_built_one(self) -> None:
        with tempfile.NamedTemporaryFile("w", suffix=".json") as manifest:
            manifest.write(json.dumps({"src/blog/reading.ts": {"file": "assets/reading-1.js"}}))
            manifest.flush()
            assets._address_of.cache_clear()
            self.addCleanup(assets._address_of.cache_clear)
            with override_settings(WEB_MANIFEST=Path(manifest.name)):
                self.assertIn('<script src="/assets/reading-1.js"></script>', self.page())
                self.assertEqual(blog_context(None, self.blog, look=Look())["script"], "")

    def test_the_front_page_is_paged_newest_first(self) -> None:
        fill(self.source, range(60, 90))
        run(Campaign.objects.get())
        first, third = self.page(), self.page("?page=3")
        self.assertIn("Story number 0 of", first)
        self.assertIn("Story number 89 of", self.page("?page=4"))
        self.assertNotIn("Story number 89 of", first)
        self.assertIn('rel="next" href="?page=3"', first, "its own list goes on into the second page")
        self.assertIn('rel="next" href="?page=4"', third)
        self.assertIn('rel="prev" href="?page=2"', third)

    def test_sections_and_tags_gather_posts(self) -> None:
        self.assertIn("Story number 0 of", self.page("section/sky-stars/"))
        self.assertIn("#night", self.page("tag/night/"))
        for path in ("section/none/", "tag/none/", "no-such-post/"):
            self.assertEqual(self.client.get(f"/blog/meadow/{path}").status_code, 404)

    def test_the_sections_are_kept_until_the_blog_changes(self) -> None:
        cache.clear()
        self.addCleanup(changes.begin_anew, listening=False)
        changes.begin_anew()
        self.assertNotIn("Comets", self.page())
        Post.objects.first().categories.add(Category.objects.create(blog=self.blog, name="Comets", slug="comets"))
        with self.assertNumQueries(4):
            self.assertNotIn("Comets", self.page())
        changes.hear(f"{self.blog.pk} grown")
        self.assertIn("Comets", self.page())

    def test_the_sections_of_two_blogs_are_kept_apart(self) -> None:
        self.page()
        create_blog(slug="heath", title="Heath", tagline="", language="en", now=NOW)
        self.assertNotContains(self.client.get("/blog/heath/"), "sky-stars")

    def test_an_address_without_a_page_says_so_and_leads_on(self) -> None:
        response = self.client.get("/blog/meadow/no-such-post/")
        self.assertEqual(response.status_code, 404)
        self.assertContains(response, "The blog has no such post.", status_code=404)
        self.assertContains(response, 'href="/blog/meadow/story-number-0-of-the-night/"', status_code=404)
        self.assertContains(self.client.get("/blog/meadow/a/b/c/"), "See what is newest", status_code=404)
        for path in ("/blog/nowhere/", "/blog/nowhere/a/", "/blog/"):
            self.assertContains(self.client.get(path), "nothing at this address", status_code=404)

    def test_a_post_names_its_original(self) -> None:
        page = self.page("story-number-3-of-the-night/")
        self.assertIn('<link rel="canonical" href="https://club.example/3">', page)
        self.assertIn("Read on at Club", page)
        self.assertIn('property="og:title" content="Story number 3 of the night"', page)

    def test_what_a_source_wrote_cannot_run(self) -> None:
        page = self.page("b-bold-b-彗星/")
        self.assertIn("&lt;b&gt;Bold&lt;/b&gt; &amp; 彗星", page)
        self.assertNotIn("bad()", page)
        self.assertIn("script-src 'self'", self.client.get("/blog/meadow/")["Content-Security-Policy"])

    def test_a_long_post_says_how_long_it_takes_to_read(self) -> None:
        post = Post.objects.get(slug="story-number-3-of-the-night")
        self.assertNotIn("Reading time", self.page(f"{post.slug}/"))
        Post.objects.filter(pk=post.pk).update(body=f"<p>{'word ' * 1000}</p>")
        self.assertIn('<span title="Reading time">4 mins</span>', self.page(f"{post.slug}/"))
        self.assertNotIn("Reading time", self.page())
        Post.objects.filter(pk=post.pk).update(visibility="phrase", pass_phrase="x")
        self.assertNotIn("Reading time", self.page(f"{post.slug}/"))

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

    def test_a_feed_that_has_not_changed_is_not_sent_again(self) -> None:
        first = self.client.get("/blog/meadow/feed.xml")
        again = self.client.get("/blog/meadow/feed.xml", headers={"If-None-Match": first["ETag"]})
        self.assertEqual((again.status_code, again.content), (304, b""))

    def test_a_page_needs_few_queries_whatever_its_length(self) -> None:
        with self.assertNumQueries(7):
            self.page()

    def test_a_post_leads_to_similar_ones_and_else_to_its_section(self) -> None:
        first, *_, other, last = Post.objects.order_by("-date")
        self.assertIn("More of ", self.page(f"{first.slug}/"))
        self.assertNotIn("Similar posts", self.page(f"{first.slug}/"))
        for post, title in ((first, "Comet above Tarn Holloway"), (last, "A tail for the comet of Tarn Holloway")):
            post.title = title
            post.save(update_fields=["title"])
        page = self.page(f"{first.slug}/")
        more = page[page.index('<aside class="more"') :]
        self.assertIn("Similar posts", more)
        self.assertLess(more.index("A tail for the comet"), more.index("Story number"))
        self.assertNotIn(f"/{other.slug}/", more)

    def test_an_empty_blog_says_so(self) -> None:
        make_blog("empty")
        self.assertIn("Nothing has been published", self.client.get("/blog/empty/").content.decode())


BLOG: dict[str, Any] = {"blog": {"title": "B", "language": "en"}, "home": "/blog/b/", "sections": (), "stylesheet": ""}


class Views(SimpleTestCase):
    """A post as the templates show it."""

    def view(self, **fields: Any) -> PostView:  # noqa: ANN401
        values: dict[str, Any] = {
            "slug": "p", "title": "P", "body": "<p>Text</p>", "excerpt": "One two three", "lead_url": "https://h.example/l?a=1&b=2",
            "lead_alt": "", "category": None, "tags": (), "byline": "", "date": NOW, "link": "https://o.example/1?a=1&b=2",
            "source": "Club", "language": "en", "description": "About it",
        }  # fmt: skip
        return PostView(**{**values, **fields})

    def test_the_lead_stands_on_top_unless_the_body_shows_it(self) -> None:
        self.assertTrue(self.view().lead_on_top)
        self.assertFalse(self.view(lead_url="").lead_on_top)
        self.assertFalse(self.view(body='<img src="https://h.example/l?a=1&amp;b=2">').lead_on_top)

    def test_the_way_to_the_original_is_shown_once(self) -> None:
        self.assertTrue(self.view().leads_on)
        self.assertFalse(self.view(link="").leads_on)
        self.assertFalse(self.view(body='<a href="https://o.example/1?a=1&amp;b=2">Read on</a>').leads_on)

    def test_a_film_alone_is_shown_with_the_excerpt_under_it(self) -> None:
        film = self.view(body='<figure class="film"><video src="https://h.example/f"></video></figure>')
        self.assertFalse(film.has_text)
        page = render_to_string("front/post.html", {**BLOG, "post": film, "body": film.shown_body, "preview": True})
        self.assertIn("<video", page)
        self.assertIn("<p>One two three</p>", page)

    def test_what_a_phrase_opens_shows_neither_text_nor_picture_in_lists(self) -> None:
        closed = self.view(visibility=Visibility.PHRASE)
        self.assertEqual((closed.thumbnail, closed.teaser), (None, "Opens with a pass phrase."))

    def test_teasers_end_with_the_ellipsis_at_the_word(self) -> None:
        long = self.view(excerpt="word\n\nword, " * 40, description="about " * 60)
        self.assertEqual(len(long.teaser.split()), 32)
        self.assertTrue(long.teaser.endswith("word…"))
        self.assertEqual((len(long.long_teaser.split()), len(long.summary.split())), (50, 40))

    def test_a_word_that_a_source_cut_is_left_out(self) -> None:
        cut = "After a quiet week it will not come close to us: the nearest it gets is still farther than the sun. Against all forecasts it points to the north-we"
        self.assertTrue(whole_words(cut).endswith("points to the…"))
        for whole in ("A short line without a stop", f"{cut}st.", f"{cut} …", "彗星" * 80):
            self.assertEqual(whole_words(whole), whole)

    def test_a_pinned_post_says_so(self) -> None:
        self.assertIn("Pinned", render_to_string("front/byline.html", {"post": self.view(pinned=True)}))
        self.assertNotIn("Pinned", render_to_string("front/byline.html", {"post": self.view()}))
