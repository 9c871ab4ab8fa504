"""A blog in several languages: addresses, lists, feeds and site maps of each."""

from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from glyptarch_server.blogs.models import Blog
from glyptarch_server.front.own_words import usual_words
from glyptarch_server.posts.models import Post

from tests.server.fixtures import fill, make_blog, make_campaign, make_source, run, text_of


class Languages(TestCase):
    """Two posts in English with a German edition of the first, and one in German alone."""

    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), [1, 2, 3], language="en")
        run(make_campaign(self.blog, "Here"))
        self.first, self.second, self.alone = Post.objects.order_by("pk")
        self.german = self.edition("de", "Die Kuppel")
        Post.objects.filter(pk=self.alone.pk).update(language="de-AT", title="Nur hier", slug="nur-hier")
        self.speaks({"tag": "de", "title": "Wiese", "tagline": "Sterne"}, {"tag": "ar"})

    def speaks(self, *languages: dict[str, str]) -> None:
        Blog.objects.filter(pk=self.blog.pk).update(languages={"languages": list(languages)})

    def edition(self, language: str, title: str) -> Post:
        values = {
            field.attname: getattr(self.first, field.attname)
            for field in Post._meta.concrete_fields
            if not field.generated and not field.primary_key
        }
        origin = {"item_id": None, "campaign_id": None, "revision_id": None, "edition_of_id": self.first.pk}
        own = {"language": language, "title": title, "slug": f"{language}-edition", "canonical": ""}
        return Post.objects.create(**values | origin | own)

    def page(self, path: str = "", status: int = 200) -> str:
        answer = self.client.get(f"/blog/meadow/{path}")
        self.assertEqual(answer.status_code, status, answer.get("Location", ""))
        return text_of(answer)

    def test_each_language_has_its_posts_its_words_and_its_title(self) -> None:
        usual, german = self.page(), self.page("de/")
        self.assertIn(self.first.title, usual)
        self.assertNotIn("Die Kuppel", usual)
        self.assertNotIn("Nur hier", usual)
        self.assertIn('<html lang="de" dir="ltr"', german)
        for text in ("Wiese", "Sterne", "Die Kuppel", "Nur hier", "Hier ist noch nichts erschienen"):
            self.assertIn(text, german)
        self.assertNotIn(self.second.title, german)
        self.assertIn('href="/blog/meadow/de/de-edition/"', german)
        self.assertIn('<html lang="ar" dir="rtl"', self.page("ar/"))

    def test_first_pages_name_each_other(self) -> None:
        for path in ("", "de/"):
            page = self.page(path)
            self.assertIn('<link rel="alternate" hreflang="de" href="http://testserver/blog/meadow/de/">', page)
            self.assertIn('<link rel="alternate" hreflang="x-default" href="http://testserver/blog/meadow/">', page)
        self.assertIn('<a href="/blog/meadow/" hreflang="en" lang="en">English</a>', self.page("de/"))

    def test_a_post_is_among_the_pages_of_its_language(self) -> None:
        page = self.page("de/de-edition/")
        self.assertIn('<link rel="canonical" href="http://testserver/blog/meadow/de/de-edition/">', page)
        self.assertIn(f'hreflang="x-default" href="http://testserver/blog/meadow/{self.first.slug}/"', page)
        self.assertIn('hreflang="de" href="http://testserver/blog/meadow/de/de-edition/"', page)
        for wrong, right in (
            ("de-edition/", "de/de-edition/"),
            ("nur-hier/", "de/nur-hier/"),
            (f"de/{self.first.slug}/", f"{self.first.slug}/"),
        ):
            answer = self.client.get(f"/blog/meadow/{wrong}")
            self.assertEqual((answer.status_code, answer["Location"]), (301, f"/blog/meadow/{right}"))

    def test_an_edition_says_how_it_was_made_where_the_blog_wants_it(self) -> None:
        for place, before in (("begin", True), ("end", False)):
            self.speaks({"tag": "de", "note": "Von einer Maschine übersetzt.", "note_place": place})
            page = self.page("de/de-edition/").partition('<div class="text">')[2]
            self.assertEqual(page.index("Von einer Maschine") < page.index("Words of story"), before)
            for other in ("de/nur-hier/", f"{self.first.slug}/"):
                self.assertNotIn("Von einer Maschine", self.page(other))

    def test_lists_feeds_and_site_maps_of_a_language(self) -> None:
        feed = self.page("de/feed.xml")
        self.assertIn("<language>de</language>", feed)
        self.assertIn("http://testserver/blog/meadow/de/de-edition/", feed)
        self.assertNotIn(self.first.title, feed)
        self.assertNotIn("Die Kuppel", self.page("atom.xml"))
        self.assertIn("Die Kuppel", self.page("de/archive/2026/11/"))
        self.assertIn("<mark>Kuppel</mark>", self.page("de/search/?q=Kuppel"))
        self.assertNotIn("<mark>", self.page("search/?q=Kuppel"))
        index = self.page("sitemap.xml")
        self.assertIn("http://testserver/blog/meadow/de/sitemap-1.xml", index)
        self.assertIn("/blog/meadow/de/de-edition/", self.page("de/sitemap-1.xml"))
        self.assertNotIn("de-edition", self.page("sitemap-1.xml"))

    def test_a_post_with_a_short_address_and_a_strange_language(self) -> None:
        Post.objects.filter(pk=self.second.pk).update(slug="sky")
        self.assertIn(self.second.title, self.page("sky/"))
        self.page("fr/", 404)
        self.page("fr/archive/", 404)
        self.page(f"fr/{self.first.slug}/", 404)
        self.page("nowhere/de/", 404)
        self.assertIn('<html lang="de"', self.page("de/nothing-here/", 404))

    def test_a_form_of_a_language_can_have_pages_of_its_own(self) -> None:
        self.speaks({"tag": "de"}, {"tag": "de-AT"})
        self.assertNotIn("Nur hier", self.page("de/"))
        self.assertIn("Nur hier", self.page("de-AT/"))
        self.assertEqual(self.client.get("/blog/meadow/de/nur-hier/")["Location"], "/blog/meadow/de-AT/nur-hier/")
        self.assertNotIn("Nur hier", self.page())

    def test_without_languages_all_is_as_before(self) -> None:
        self.speaks()
        page = self.page()
        self.assertIn("Nur hier", page)
        self.assertNotIn('class="editions"', page)
        self.assertIn(self.first.title, self.page(f"{self.first.slug}/"))
        self.page("de/", 404)

    def test_a_page_with_its_languages_costs_at_most_one_query_more(self) -> None:
        def queries(path: str) -> int:
            self.page(path)
            with CaptureQueriesContext(connection) as captured:
                self.page(path)
            return len(captured)

        with_languages = queries(f"{self.first.slug}/"), queries("")
        self.assertLessEqual(queries("de/de-edition/"), with_languages[0])
        self.speaks()
        without = queries(f"{self.first.slug}/"), queries("")
        self.assertLessEqual(with_languages[0], without[0] + 1)
        self.assertEqual(with_languages[1], without[1])

    def test_owners_have_words_of_their_own(self) -> None:
        words = {"Search": "Look around", "Newest": ""}
        german = {"tag": "de", "words": {"Search": "Stöbern", "All that {blog} has under {name}.": "{name} in {blog}"}}
        Blog.objects.filter(pk=self.blog.pk).update(languages={"languages": [german], "words": words})
        self.assertIn(">Look around</a>", self.page())
        self.assertIn(">Newest</a>", self.page())
        self.assertIn(">Stöbern</a>", self.page("de/"))
        self.assertNotIn("Look around", self.page("de/"))
        self.assertIn(">Search</a>", self.other_blog())

    def other_blog(self) -> str:
        make_blog("ridge")
        return text_of(self.client.get("/blog/ridge/"))

    def test_the_words_of_each_language_are_listed(self) -> None:
        self.assertIn(("Search", "Suche"), usual_words("de"))
        self.assertIn(("Search", "Search"), usual_words("en"))
        self.assertGreater(len(usual_words("ja")), 90)
