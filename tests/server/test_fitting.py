"""A hostile feed on its way to the database: the entry gives way, never the run."""

import json
from typing import Any

from django.test import Client, TestCase
from glyptarch_server.blogs.actions import categories_named, tags_named
from glyptarch_server.blogs.models import Category, Tag
from glyptarch_server.items.actions import read_and_capture
from glyptarch_server.items.capturing import capture
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Reading

from tests.server.fixtures import NOW, CannedPortal, clock, fill, make_blog, make_campaign, make_source, run, story


def feed_of(*entries: dict[str, Any]) -> bytes:
    """Return a JSON Feed with a valid entry after the given ones."""
    sound = {
        "id": "sound",
        "url": "https://club.example/sound",
        "title": "A sound entry",
        "content_text": "Some words.",
    }
    data = {"version": "https://jsonfeed.org/version/1.1", "title": "Club", "items": [*entries, sound]}
    return json.dumps(data).encode()


HOSTILE: dict[str, dict[str, Any]] = {
    "a title that folds to many times its length": {"title": "\ufdfa" * 900},
    "a link of 9,000 characters": {"url": "https://club.example/" + "x" * 9000},
    "a link whose escapes are longer than a column": {"url": "https://club.example/" + "彗" * 1900},
    "NUL": {"title": "a\x00b", "content_text": "c\x00d", "tags": ["e\x00f"], "_x": {"g\x00h": "i\x00j"}},
    "a control character": {"title": "Bell \x07 rings", "content_text": "\x01 and \x1f"},
    "a lone surrogate": {"title": "half \ud83d", "content_text": "\udc00", "tags": ["\ud800"], "id": "\ud801"},
    "numbers that JSON does not have": {"_x": {"price": float("nan"), "views": float("inf"), "deep": [float("nan")]}},
    "an identity of 9,000 characters": {"id": "i" * 9000},
    "tags that are very long": {"tags": ["t" * 900, *[f"tag {number}" for number in range(900)]]},
    "a date that cannot be right": {
        "date_published": "0001-01-01T00:00:00+14:00",
        "date_modified": "9999-12-31T23:59:59Z",
    },
    "names of authors that are very long": {"authors": [{"name": "n" * 5000}]},
    "deep data": {"_x": json.loads("[" * 90 + "]" * 90)},
}


class HostileEntries(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        rules = [{"id": kind, "kind": kind} for kind in ("source", "hashtags", "title")]
        table = [{"id": "t", "kind": "table", "unmapped": "create"}]
        self.campaign = make_campaign(
            self.blog, place={"tag_rules": rules, "category_rules": table, "byline_from": "author"}
        )

    def test_none_of_them_keeps_a_run_from_its_end_or_another_entry_from_the_blog(self) -> None:
        for name, entry in HOSTILE.items():
            with self.subTest(name):
                Decision.objects.all().delete()
                Post.objects.all().delete()
                Item.objects.all().delete()
                whole = {"id": "hostile", "title": "Hostile", "content_text": "Other words.", **entry}
                done = run(self.campaign, CannedPortal({self.source.url: feed_of(whole)}))
                self.assertEqual((done.state, done.failure), ("done", ""))
                self.assertTrue(Post.objects.filter(slug="a-sound-entry").exists())
                self.assertEqual(Decision.objects.count(), 2)
                self.assertFalse(Decision.objects.filter(left_at="release").exists(), "it was put aside")
                for path in ("", "feed.xml", "atom.xml"):
                    self.assertEqual(Client().get(f"/blog/meadow/{path}").status_code, 200)

    def test_what_had_to_be_left_out_is_told_at_the_source(self) -> None:
        entry = {
            "id": "1",
            **HOSTILE["a link of 9,000 characters"],
            **HOSTILE["a date that cannot be right"],
            "title": "long " * 300,
        }
        read_and_capture(self.source, fetcher=CannedPortal({self.source.url: feed_of(entry)}), clock=clock)  # type: ignore[arg-type]
        codes = {warning["code"] for warning in Reading.objects.get().warnings}
        self.assertLessEqual({"link_too_long", "date_unlikely", "title_too_long"}, codes)

    def test_an_entry_that_the_database_does_not_take_is_left_out_alone_and_named(self) -> None:
        unfit = story(1, title="x" * 2000)
        with self.assertLogs("glyptarch.items"):
            result = capture(self.source, [story(0), unfit, story(2)], now=NOW)
        self.assertEqual((result.fresh, result.refused, Item.objects.count()), (2, ("n1",), 2))
        with self.assertLogs("glyptarch.items"):
            edited = capture(self.source, [story(0, title="Edited"), story(2, title="y\x00")], now=NOW)
        self.assertEqual((edited.refused, Item.objects.get(identity="n0").title), (("n2",), "Edited"))


class Names(TestCase):
    def test_letters_that_postgresql_and_python_fold_differently_name_one_category(self) -> None:
        blog = make_blog()
        for name in ("ΟΔΟΣ", "İSTANBUL", "straße", "K", "ﬁlm"):
            with self.subTest(name):
                made = categories_named(blog, [name])
                self.assertEqual(len(made), 1)
                self.assertEqual(categories_named(blog, [name]), made)
        self.assertEqual(Category.objects.count(), 5)
        self.assertEqual(categories_named(blog, ["STRASSE"])["strasse"].name, "straße")

    def test_signs_tell_names_apart(self) -> None:
        self.assertEqual(len(tags_named(make_blog(), ["C", "C++", "C#"])), 3)
        self.assertEqual(Tag.objects.count(), 3)

    def test_a_run_sorts_posts_into_such_categories(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1], categories=("ΟΔΟΣ", "İstanbul"))
        rules = [{"id": "t", "kind": "table", "unmapped": "create"}]
        run(make_campaign(blog, place={"category_rules": rules, "tag_rules": [{"id": "s", "kind": "source"}]}))
        post = Post.objects.get()
        self.assertEqual({category.name for category in post.categories.all()}, {"ΟΔΟΣ", "İstanbul"})
        self.assertEqual({tag.name for tag in post.tags.all()}, {"ΟΔΟΣ", "İstanbul"})


class OldRows(TestCase):
    def test_a_control_character_that_is_kept_already_breaks_no_feed(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1])
        run(make_campaign(blog))
        Post.objects.update(title="Bell \x07", excerpt="\x01", description="\x02")
        blog.tagline = "\x03"
        blog.save()
        for path in ("feed.xml", "atom.xml"):
            self.assertContains(Client().get(f"/blog/meadow/{path}"), "Bell")
