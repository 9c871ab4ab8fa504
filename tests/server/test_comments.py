"""Comments of readers: left under a post, read by an editor, shown or removed."""

import re
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.test import Client, TestCase
from glyptarch_server.comments.actions import LONGEST_TEXT, leave_comment, move_comment
from glyptarch_server.comments.lifecycle import MOVES, CommentState
from glyptarch_server.comments.models import Comment
from glyptarch_server.comments.queries import comments_under, listed_comments, state_counts
from glyptarch_server.common.problems import Conflict, Forbidden, Invalid, TooMany
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post

from tests.server.fixtures import NOW, comment_form, make_blog, make_campaign, make_source, run


class CommentCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        make_source(self.blog, stories=2)
        run(make_campaign(self.blog, place={"comments": True}))
        self.post = Post.objects.order_by("pk")[0]
        self.address = f"/blog/meadow/{self.post.slug}/"

    def said(self, text: str = "We saw it too.", **fields: Any) -> Comment:  # noqa: ANN401
        return leave_comment(self.post, **{"name": "Ida", "text": text, "now": NOW, **fields})


class Leaving(CommentCase):
    def test_a_comment_waits_to_be_read(self) -> None:
        comment = self.said(name="  Ida \n Farrow ")
        self.assertEqual((comment.state, comment.name), ("waiting", "Ida Farrow"))
        self.assertEqual(list(comments_under(self.post)), [])

    def test_a_post_knows_how_many_it_has_whatever_became_of_them(self) -> None:
        first = self.said()
        self.said()
        self.said("And then it rained.")
        move_comment(first, CommentState.REMOVED, now=NOW)
        self.assertEqual([post.comment_count for post in Post.objects.order_by("pk")], [2, 0])

    def test_a_post_takes_comments_only_where_its_rules_allowed_them(self) -> None:
        self.post.comments = False
        with self.assertRaises(Forbidden):
            self.said()

    def test_a_post_off_the_blog_takes_none(self) -> None:
        move_post(self.post, PostState.HELD, now=NOW)
        with self.assertRaises(Forbidden):
            self.said()

    def test_nothing_and_too_much_are_refused_with_the_reason(self) -> None:
        for text, name in (("  ", "Ida"), ("Seen", " "), ("x" * (LONGEST_TEXT + 1), "Ida"), ("Seen", "x" * 81)):
            with self.subTest(text=text[:5], name=name[:5]), self.assertRaises(Invalid):
                self.said(text, name=name)

    def test_a_flood_is_stopped_until_some_are_read(self) -> None:
        Comment.objects.bulk_create(
            Comment(
                post=self.post,
                blog_id=self.post.blog_id,
                state="waiting",
                name="x",
                text="x",
                made_at=NOW,
                changed_at=NOW,
            )
            for _ in range(100)
        )
        with self.assertRaises(TooMany):
            self.said()
        move_comment(Comment.objects.all()[0], CommentState.REMOVED, now=NOW)
        self.said()

    def test_the_database_knows_the_states(self) -> None:
        comment = self.said()
        with self.assertRaises(IntegrityError), transaction.atomic():
            Comment.objects.filter(pk=comment.pk).update(state="odd")


class Deciding(CommentCase):
    def test_every_state_leads_to_the_others(self) -> None:
        for state in CommentState:
            for to in MOVES[state]:
                comment = self.said()
                Comment.objects.filter(pk=comment.pk).update(state=state.value)
                self.assertEqual(move_comment(comment, to, now=NOW).state, to.value)

    def test_a_move_that_is_no_move_changes_nothing(self) -> None:
        comment = self.said()
        moved = move_comment(comment, CommentState.WAITING, now=NOW + timedelta(hours=1))
        self.assertEqual(moved.changed_at, NOW)

    def test_a_move_that_is_not_allowed_says_so(self) -> None:
        comment = self.said()
        kept = MOVES[CommentState.WAITING]
        try:
            MOVES[CommentState.WAITING] = frozenset()  # type: ignore[index]
            with self.assertRaisesRegex(Conflict, "Ida is waiting now"):
                move_comment(comment, CommentState.SHOWN, now=NOW)
        finally:
            MOVES[CommentState.WAITING] = kept  # type: ignore[index]

    def test_lists_are_searched_narrowed_and_newest_first(self) -> None:
        first = self.said("Over the mill")
        second = self.said("By the water", now=NOW + timedelta(minutes=1))
        move_comment(second, CommentState.SHOWN, now=NOW)
        self.assertEqual(list(listed_comments(self.blog)), [second, first])
        self.assertEqual(list(listed_comments(self.blog, search="MILL")), [first])
        self.assertEqual(list(listed_comments(self.blog, state="shown")), [second])
        self.assertEqual(list(listed_comments(make_blog("other"))), [])
        self.assertEqual(state_counts(self.blog), {"waiting": 1, "shown": 1, "removed": 0})


class OnTheBlog(CommentCase):
    def setUp(self) -> None:
        super().setUp()
        self.client = Client()

    def page(self, address: str = "") -> str:
        return self.client.get(address or self.address).content.decode()

    def send(self, **fields: str) -> Any:  # noqa: ANN401
        written = comment_form(self.post, **{"comment": "We saw it <b>too</b>.", **fields})
        return self.client.post(f"{self.address}comments/", written)

    def test_a_reader_is_thanked_and_an_editor_lets_it_through(self) -> None:
        answer = self.send()
        self.assertEqual((answer.status_code, answer["Location"]), (303, f"{self.address}?said#comments"))
        self.assertIn("An editor reads it before it is shown", self.page(f"{self.address}?said"))
        self.assertNotIn("We saw it", self.page())
        move_comment(Comment.objects.get(), CommentState.SHOWN, now=NOW)
        self.assertIn("1 comment<", self.page())
        self.assertIn("We saw it &lt;b&gt;too&lt;/b&gt;.", self.page())

    def test_what_does_not_hold_is_given_back_with_what_was_written(self) -> None:
        answer = self.send(name=" ")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Write your name", answer.content.decode())
        self.assertIn("We saw it &lt;b&gt;too&lt;/b&gt;.</textarea>", answer.content.decode())

    def test_a_machine_that_fills_in_everything_is_thanked_and_not_heard(self) -> None:
        self.assertEqual(self.send(website="https://spam.example/").status_code, 303)
        self.assertEqual(Comment.objects.count(), 0)

    def test_there_is_no_form_where_no_comments_are_allowed(self) -> None:
        self.assertIn('id="comment"', self.page())
        Post.objects.update(comments=False)
        self.assertNotIn('id="comment"', self.page())
        self.assertEqual(self.send().status_code, 403)

    def test_a_closed_post_takes_comments_only_from_those_who_opened_it(self) -> None:
        Post.objects.update(visibility="phrase", pass_phrase="dark field")
        self.assertEqual(self.send().status_code, 403)
        self.client.post(self.address, {"phrase": "dark field"})
        self.assertEqual(self.send().status_code, 303)

    def test_the_form_of_the_page_is_taken_and_any_other_given_back(self) -> None:
        reader = Client(enforce_csrf_checks=True)
        form = re.search(r'name="form" value="([^"]+)"', self.page())
        assert form is not None
        written = {"name": "Ida", "comment": "We saw it."}
        for signature in ("", "x", comment_form(Post.objects.order_by("pk")[1])["form"]):
            with self.subTest(signature=signature):
                answer = reader.post(f"{self.address}comments/", {**written, "form": signature})
                self.assertContains(answer, "We saw it.</textarea>", status_code=403)
                self.assertContains(answer, "Send it once more", status_code=403)
        self.assertEqual(Comment.objects.count(), 0)
        self.assertEqual(reader.post(f"{self.address}comments/", {**written, "form": form[1]}).status_code, 303)

    def test_comments_are_only_sent(self) -> None:
        self.assertEqual(self.client.get(f"{self.address}comments/").status_code, 405)
