"""The public pages speak the language of their blog."""

import re
from pathlib import Path

import glyptarch_server.front
from babel.messages.mofile import read_mo
from babel.messages.pofile import read_po
from django.test import Client, SimpleTestCase, TestCase
from glyptarch_server.blogs.models import Blog
from glyptarch_server.posts.models import Post

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run

FRONT = Path(glyptarch_server.front.__file__).parent
CATALOGS = sorted((FRONT / "locale").glob("*/LC_MESSAGES/django.po"))


class Catalogs(SimpleTestCase):
    def asked(self) -> set[str]:
        """Return the words that templates and views ask for."""
        marked = re.compile(r'translate "([^"]*)" %}|gettext(?:_noop)?\("([^"]*)"\)')
        files = (*(FRONT / "templates").rglob("*.html"), *FRONT.glob("*.py"))
        return {"".join(found) for path in files for found in marked.findall(path.read_text())}

    def test_each_language_has_every_word_and_its_compiled_form_is_current(self) -> None:
        self.assertGreaterEqual(len(CATALOGS), 5)
        for path in CATALOGS:
            with self.subTest(path.parts[-3]), path.open("rb") as text, path.with_suffix(".mo").open("rb") as compiled:
                catalog, used = read_po(text), read_mo(compiled)
                words = {message.id if isinstance(message.id, str) else message.id[0]: message for message in catalog}
                self.assertEqual(self.asked() - words.keys(), set())
                for name, message in words.items():
                    if not name:
                        continue
                    written = [message.string] if isinstance(message.string, str) else list(message.string)
                    self.assertTrue(all(written), name)
                    for slot in re.findall(r"%\(\w+\)s|\{\w+\}", name):
                        self.assertIn(slot, written[-1])
                    found = used.get(message.id)
                    assert found is not None, name
                    self.assertEqual(
                        [found.string] if isinstance(found.string, str) else list(found.string), written, name
                    )


class Pages(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), range(3), published=NOW)
        run(make_campaign(self.blog))

    def page(self, path: str = "") -> str:
        return str(Client().get(f"/blog/meadow/{path}").content.decode())

    def test_words_and_dates_are_those_of_the_language(self) -> None:
        for language, found in {
            "de": (
                "Dienstag, 24. November 2026",
                "3 Beiträge · 1 Quelle",
                "24. November 2026",
                ">Suche<",
                'lang="de" dir="ltr"',
            ),
            "fr": ("mardi 24 novembre 2026", "3 articles", ">Recherche<"),
            "ja": ("2026年11月24日火曜日", "3件"),
            "ar": ("الثلاثاء", "3 مواد", 'dir="rtl"'),
            "en": ("Tuesday, 24 November 2026", ">24 November 2026<"),
        }.items():
            Blog.objects.update(language=language)
            page = self.page()
            for words in found:
                with self.subTest(words):
                    self.assertIn(words, page)

    def test_a_language_without_words_of_ours_keeps_english_ones_and_its_dates(self) -> None:
        Blog.objects.update(language="pl")
        self.assertIn("wtorek", self.page())
        self.assertIn(">Search<", self.page())

    def test_any_tag_of_a_language_gives_a_page(self) -> None:
        for tag in ("tlh", "zh-Hant-TW", "sr-Latn-RS", "de-CH", "x-meadow", "ar-EG"):
            Blog.objects.update(language=tag)
            page = self.client.get("/blog/meadow/")
            self.assertEqual(page.status_code, 200, tag)
            self.assertIn(f'lang="{tag}"', page.content.decode())

    def test_a_pass_phrase_is_asked_for_in_the_language(self) -> None:
        Blog.objects.update(language="de")
        Post.objects.update(visibility="phrase", pass_phrase="dunkles Feld")
        address = f"/blog/meadow/{Post.objects.order_by('pk')[0].slug}/"
        self.assertIn("Öffnet sich mit einem Kennwort", self.client.get("/blog/meadow/").content.decode())
        wrong = self.client.post(address, {"phrase": "x"}).content.decode()
        self.assertIn("Das ist nicht das Kennwort", wrong)

    def test_what_is_missing_says_so_in_the_language_and_the_next_request_is_not_changed(self) -> None:
        Blog.objects.update(language="de")
        self.assertIn("Unter dieser Adresse steht nichts", self.page("section/none/"))
        make_blog("other")
        self.assertIn("Nothing has been published", str(Client().get("/blog/other/").content.decode()))

    def test_a_post_in_another_language_says_so(self) -> None:
        Post.objects.update(language="he")
        post = Post.objects.all()[0]
        self.assertIn('<article class="post" lang="he" dir="auto">', self.page(f"{post.slug}/"))
