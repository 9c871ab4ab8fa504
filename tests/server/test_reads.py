"""Reads of posts: which are counted, and what the desk is told of them."""

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from django.test import Client, SimpleTestCase, TestCase
from glyptarch_core.draft import Visibility
from glyptarch_server.common.from_readers import is_from_reader
from glyptarch_server.common.page_cache import POST_HEADER
from glyptarch_server.posts.counting import ReadCounter
from glyptarch_server.posts.models import Post, PostReads
from glyptarch_server.posts.reads import add_reads, most_read, thin_reads

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run
from tests.server.test_api import ApiCase

TODAY = NOW.date()
_READER = {"user-agent": "Mozilla/5.0 (X11; Linux x86_64) Gecko"}


class Readers(SimpleTestCase):
    def test_a_browser_that_shows_a_page_is_one(self) -> None:
        self.assertTrue(is_from_reader("GET", lambda name: _READER.get(name, "")))

    def test_programs_silent_ones_and_pages_that_nobody_sees_yet_are_none(self) -> None:
        for headers in (
            {},
            {"user-agent": "AlmanacBot/2.0 (+http://robots.example)"},
            {"user-agent": "curl/8.0"},
            {"user-agent": "Mozilla/5.0 HeadlessBrowser"},
            {**_READER, "sec-purpose": "prefetch"},
            {**_READER, "purpose": "prefetch"},
        ):
            with self.subTest(headers=headers):
                self.assertFalse(is_from_reader("GET", lambda name, of=headers: of.get(name, "")))  # type: ignore[misc]
        self.assertFalse(is_from_reader("HEAD", lambda name: _READER.get(name, "")))


class Counting(SimpleTestCase):
    def setUp(self) -> None:
        self.written: list[Mapping[int, int]] = []
        self.fails = False
        self.counter = ReadCounter(self.write, pause=3600)
        self.addCleanup(lambda: self.counter._timer and self.counter._timer.cancel())

    def write(self, counts: Mapping[int, int]) -> None:
        if self.fails:
            raise RuntimeError("the database is away")
        self.written.append(dict(counts))

    def test_reads_are_added_up_and_written_together(self) -> None:
        for post in (1, 2, 1):
            self.counter.note(post)
        self.counter.flush()
        self.counter.flush()
        self.assertEqual(self.written, [{1: 2, 2: 1}])

    def test_what_could_not_be_written_is_written_later(self) -> None:
        self.counter.note(1)
        self.fails = True
        with self.assertLogs("glyptarch.reads", "WARNING"):
            self.counter.flush()
        self.fails = False
        self.counter.note(1)
        self.counter.flush()
        self.assertEqual(self.written, [{1: 2}])

    def test_a_flood_of_posts_takes_bounded_memory(self) -> None:
        for post in range(20_050):
            self.counter.note(post)
        self.counter.note(3)
        self.counter.flush()
        self.assertEqual((len(self.written[0]), self.written[0][3]), (20_000, 2))


class Kept(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        make_source(self.blog, stories=3)
        run(make_campaign(self.blog))
        self.posts = list(Post.objects.order_by("pk"))

    def test_reads_of_a_day_are_added(self) -> None:
        first, second, _ = self.posts
        add_reads({first.pk: 2, second.pk: 1}, day=TODAY)
        add_reads({first.pk: 3, 10**9: 5}, day=TODAY)
        rows = PostReads.objects.order_by("post").values_list("blog", "post", "day", "reads")
        self.assertEqual(list(rows), [(self.blog.pk, first.pk, TODAY, 5), (self.blog.pk, second.pk, TODAY, 1)])

    def test_the_most_read_are_those_on_the_blog_in_the_last_days(self) -> None:
        first, second, third = self.posts
        add_reads({first.pk: 1, second.pk: 4, third.pk: 9}, day=TODAY)
        add_reads({first.pk: 50}, day=TODAY - timedelta(days=30))
        Post.objects.filter(pk=third.pk).update(state="binned")
        found = most_read(self.blog, today=TODAY, most=5)
        self.assertEqual(list(found.items()), [(second.pk, 4), (first.pk, 1)])
        self.assertEqual(list(most_read(self.blog, today=TODAY, most=5, days=31)), [first.pk, second.pk])

    def test_old_reads_are_removed(self) -> None:
        post = self.posts[0].pk
        for days in (0, 400, 401):
            add_reads({post: 1}, day=TODAY - timedelta(days=days))
        self.assertEqual(thin_reads(now=NOW), 1)
        self.assertEqual(PostReads.objects.count(), 2)

    def test_the_page_of_a_post_names_it_and_a_closed_one_does_not(self) -> None:
        post = self.posts[0]
        address = f"/blog/meadow/{post.slug}/"
        self.assertEqual(Client().get(address)[POST_HEADER], str(post.pk))
        self.assertNotIn(POST_HEADER, Client().get("/blog/meadow/"))
        Post.objects.filter(pk=post.pk).update(visibility=Visibility.PHRASE.value, pass_phrase="moth")
        self.assertNotIn(POST_HEADER, Client().get(address))


class OnTheDesk(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = make_source(self.blog, "ridge")
        fill(self.other, range(50, 52))
        run(make_campaign(self.blog, "Ridge", ("ridge",)))
        self.posts = list(Post.objects.filter(source=self.other).order_by("pk"))

    def reads(self, days: int = 30) -> Any:  # noqa: ANN401 - JSON
        return self.call(self.viewer, "GET", f"/blogs/meadow/reads?days={days}").json()

    def test_nothing_was_read_yet(self) -> None:
        told = self.reads(3)
        self.assertEqual((told["total"], len(told["days"]), told["posts"], told["sources"]), (0, 3, [], []))

    def test_reads_are_told_by_day_post_source_and_campaign(self) -> None:
        first, second = (post.pk for post in self.posts)
        add_reads({first: 2, second: 5}, day=TODAY)
        add_reads({first: 4}, day=TODAY - timedelta(days=1))
        told = self.reads(2)
        self.assertEqual((told["total"], [day["reads"] for day in told["days"]]), (11, [4, 7]))
        self.assertEqual([(post["id"], post["reads"], post["source"]) for post in told["posts"]],
                         [(first, 6, "Ridge"), (second, 5, "Ridge")])  # fmt: skip
        self.assertEqual(
            told["sources"], [{"key": "ridge", "name": "Ridge", "archived": False, "posts": 2, "reads": 11}]
        )
        self.assertEqual(
            told["campaigns"], [{"key": "ridge", "name": "Ridge", "archived": False, "posts": 2, "reads": 11}]
        )
        rows = {row["id"]: row["reads"] for row in self.call(self.viewer, "GET", "/blogs/meadow/posts").json()["rows"]}
        self.assertEqual((rows[first], rows[second]), (6, 5))

    def test_an_archived_campaign_is_said_to_be_one(self) -> None:
        add_reads({self.posts[0].pk: 2}, day=TODAY)
        self.call(self.editor, "PUT", "/blogs/meadow/campaigns/ridge/archived", {"archived": True})
        self.assertEqual([line["archived"] for line in self.reads()["campaigns"]], [True])

    def test_another_blog_is_not_told_of(self) -> None:
        elsewhere = make_blog("elsewhere")
        source = make_source(elsewhere, "other", stories=1)
        run(make_campaign(elsewhere, "Other", ("other",)))
        add_reads({Post.objects.get(source=source).pk: 7}, day=TODAY)
        self.assertEqual(self.reads()["total"], 0)
