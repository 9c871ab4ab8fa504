"""Guessing and flooding are limited for any number of clients, and lock nobody else out."""

import json
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

from django.db import connection
from django.db.models import F
from django.test import Client, RequestFactory, SimpleTestCase, TestCase, TransactionTestCase, override_settings
from glyptarch_server.comments.models import Comment
from glyptarch_server.common.client import client_of
from glyptarch_server.posts.models import Post
from glyptarch_server.throttle.actions import clear, limit_of, remove_ended, take
from glyptarch_server.throttle.models import Window

from tests.server.fixtures import PASSWORD, comment_form, make_blog, make_campaign, make_source, make_user, run

TWICE = limit_of("2 per minute", "test")


def sign_in(password: str, *, client: Client | None = None, name: str = "mira", **meta: Any) -> int:  # noqa: ANN401
    body = json.dumps({"name": name, "password": password})
    return (client or Client()).post("/api/session", body, content_type="application/json", **meta).status_code


def later() -> None:
    """Let all periods end."""
    Window.objects.update(ends_at=F("ends_at") - timedelta(days=1))


class Counting(TestCase):
    def test_each_limit_and_each_person_has_a_count_of_its_own(self) -> None:
        self.assertEqual([take(TWICE, "a") for _ in range(3)], [True, True, False])
        self.assertTrue(take(TWICE, "b"))
        self.assertTrue(take(limit_of("2 per minute", "other"), "a"))

    def test_a_count_ends_with_its_time_or_when_it_is_cleared(self) -> None:
        for end in (later, lambda: clear(TWICE, "a")):
            for _ in range(3):
                take(TWICE, "a")
            end()
            self.assertTrue(take(TWICE, "a"))

    def test_what_is_over_is_removed(self) -> None:
        take(TWICE, "a")
        self.assertEqual(remove_ended(), 0)
        later()
        self.assertEqual(remove_ended(), 1)


class SignIn(TestCase):
    def setUp(self) -> None:
        self.owner = make_user()

    def test_one_client_guesses_eight_times_and_then_waits(self) -> None:
        self.assertEqual([sign_in("wrong") for _ in range(9)], [422] * 8 + [429])
        self.assertEqual(sign_in(PASSWORD), 429)
        later()
        self.assertEqual(sign_in(PASSWORD), 200)

    def test_one_client_cannot_go_on_with_other_names(self) -> None:
        answers = [sign_in("wrong", name=f"name{number}") for number in range(41)]
        self.assertEqual(answers, [422] * 40 + [429])

    def test_a_sign_in_forgets_the_slips_before_it(self) -> None:
        for _ in range(3):
            self.assertEqual([sign_in("wrong") for _ in range(7)] + [sign_in(PASSWORD)], [422] * 7 + [200])

    def test_a_header_that_anybody_can_write_gives_nobody_new_tries(self) -> None:
        answers = [sign_in("wrong", HTTP_X_FORWARDED_FOR=f"203.0.113.{number}") for number in range(10)]
        self.assertEqual(answers[8:], [429, 429])

    def test_strangers_cannot_lock_a_person_out_of_a_browser_they_know(self) -> None:
        home = Client()
        self.assertEqual(sign_in(PASSWORD, client=home), 200)
        home.delete("/api/session")
        for number in range(120):
            sign_in("wrong", REMOTE_ADDR=f"203.0.{number}.1")
        self.assertEqual(sign_in(PASSWORD, REMOTE_ADDR="198.51.100.1"), 429, "any other browser waits")
        self.assertEqual(sign_in(PASSWORD, client=home), 200)

    def test_a_known_browser_is_known_for_one_name_and_has_eight_tries_as_well(self) -> None:
        make_user("edda")
        home = Client()
        sign_in(PASSWORD, client=home)
        for _ in range(8):
            self.assertEqual(sign_in("wrong", client=home, name="edda", REMOTE_ADDR="203.0.113.9"), 422)
        self.assertEqual(
            sign_in("wrong", name="edda", REMOTE_ADDR="203.0.113.9"), 429, "they were counted as anybody's"
        )
        self.assertEqual([sign_in("wrong", client=home) for _ in range(9)][8], 429)

    def test_the_mark_of_a_known_browser_cannot_be_made_up(self) -> None:
        home = Client()
        home.cookies["known-browser"] = "0123456789abcdef.0123:forged"
        self.assertEqual([sign_in("wrong", client=home) for _ in range(9)][8], 429)


class AtOnce(TransactionTestCase):
    def test_tries_made_at_the_same_time_do_not_slip_past_each_other(self) -> None:
        make_user()

        def attempt(_: int) -> int:
            try:
                return sign_in("wrong")
            finally:
                connection.close()

        with ThreadPoolExecutor(12) as pool:
            answers = list(pool.map(attempt, range(60)))
        self.assertEqual((answers.count(422), answers.count(429)), (8, 52))


class Readers(TestCase):
    def setUp(self) -> None:
        blog = make_blog()
        make_source(blog, stories=2)
        phrase = {"visibility": "phrase", "pass_phrase": "open, please"}
        run(make_campaign(blog, place={"comments": True}))
        make_source(blog, "wire", stories=1)
        run(make_campaign(blog, "Closed", ("wire",), place=phrase, match={"rules": []}))
        self.open, self.closed = Post.objects.filter(comments=True)[0], Post.objects.get(visibility="phrase")

    def comment(self, text: str, client: str = "203.0.113.1", post: Post | None = None) -> int:
        under = post or self.open
        form = comment_form(under, comment=text)
        return self.client.post(f"/blog/meadow/{under.slug}/comments/", form, REMOTE_ADDR=client).status_code

    def test_one_client_cannot_fill_the_queue_of_a_post(self) -> None:
        self.assertEqual([self.comment(f"Seen {number}") for number in range(6)], [303] * 5 + [429])
        self.assertEqual(self.comment("Seen by another", client="203.0.113.2"), 303)

    def test_the_same_comment_sent_twice_is_taken_once(self) -> None:
        self.assertEqual([self.comment("Seen"), self.comment("Seen")], [303, 303])
        self.assertEqual(Comment.objects.count(), 1)

    def guess(self, phrase: str, client: str = "203.0.113.1") -> int:
        return self.client.post(f"/blog/meadow/{self.closed.slug}/", {"phrase": phrase}, REMOTE_ADDR=client).status_code

    def test_a_pass_phrase_is_guessed_ten_times_and_then_not_even_the_right_one_opens(self) -> None:
        self.assertEqual([self.guess(f"guess {number}") for number in range(10)], [403] * 10)
        self.assertEqual(self.guess("open, please"), 429)
        self.assertNotContains(self.client.get(f"/blog/meadow/{self.closed.slug}/"), "Words of story")
        self.assertEqual(self.guess("open, please", client="203.0.113.2"), 200)


class WhoAsks(SimpleTestCase):
    def asked(self, address: str, forwarded: str = "") -> str:
        return client_of(RequestFactory().get("/", REMOTE_ADDR=address, HTTP_X_FORWARDED_FOR=forwarded))

    def test_without_a_trusted_proxy_the_header_means_nothing(self) -> None:
        self.assertEqual(self.asked("203.0.113.9", "10.0.0.1"), "203.0.113.9")

    @override_settings(GLYPTARCH_TRUSTED_PROXIES=("10.0.0.0/8", "::1/128"))
    def test_behind_one_the_last_entry_that_is_no_proxy_counts(self) -> None:
        self.assertEqual(self.asked("10.1.1.1", "6.6.6.6, 203.0.113.9"), "203.0.113.9")
        self.assertEqual(self.asked("10.1.1.1", "203.0.113.9, 10.2.2.2"), "203.0.113.9")
        self.assertEqual(self.asked("::1", "nonsense"), "::/64")
        self.assertEqual(self.asked("203.0.113.7", "1.2.3.4"), "203.0.113.7")

    def test_one_subscriber_of_ipv6_is_one_client(self) -> None:
        self.assertEqual(self.asked("2001:db8:1:2:3::4"), self.asked("2001:db8:1:2:ffff::1"))
        self.assertEqual(self.asked("::ffff:203.0.113.9"), "203.0.113.9")
