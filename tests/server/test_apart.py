"""Blogs are apart: nobody reads or changes anything of a blog on which they have no role."""

from typing import Any

from django.apps import apps
from django.test import Client, TestCase
from glyptarch_core.trace import Stage
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog, Role
from glyptarch_server.blogs.queries import blogs_within_reach
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.posts.models import AlsoAt, NearKeys, Post, PostKey
from glyptarch_server.proofs.prove import make_proof
from glyptarch_server.runs.models import Decision
from glyptarch_server.runs.visibility import readable_notes

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run, text_of
from tests.server.test_api import ApiCase

MARK = "nightjar"
APPS = {"blogs", "sources", "items", "campaigns", "posts", "comments", "runs", "media", "replay"}
TEXTS = {"title", "tagline", "name", "detail", "note", "text", "excerpt", "body", "failure", "attribution"}
EVERYTHING = {"against": "everything", "on_match": "join"}


class Reach(TestCase):
    def setUp(self) -> None:
        self.ada, self.ben, self.eve = make_user("ada"), make_user("ben"), make_user("eve")
        self.theirs, self.ours = make_blog("theirs", self.ada), make_blog("ours", self.ben)
        fill(make_source(self.theirs), range(2), title=f"The {MARK} of the hill")
        run(make_campaign(self.theirs, "First", release={"mode": "hold"}))
        self.source = make_source(self.ours)
        fill(self.source, range(2), title=f"The {MARK} of the hill")
        self.campaign = make_campaign(self.ours, "Second", match=EVERYTHING, release={"mode": "hold"})

    def reach(self) -> list[int]:
        return blogs_within_reach(self.ours)

    def test_another_blog_is_looked_into_only_where_every_owner_has_a_role_on_it(self) -> None:
        self.assertEqual(self.reach(), [self.ours.pk])
        add_member(self.theirs, self.ben, Role.EDITOR)
        self.assertEqual(self.reach(), [self.ours.pk, self.theirs.pk])
        add_member(self.ours, self.eve, Role.OWNER)
        self.assertEqual(self.reach(), [self.ours.pk])

    def test_an_editor_writes_rules_too_and_must_have_a_role_there_as_well(self) -> None:
        add_member(self.theirs, self.ben, Role.VIEWER)
        self.assertEqual(self.reach(), [self.ours.pk, self.theirs.pk])
        add_member(self.ours, self.eve, Role.EDITOR)
        self.assertEqual(self.reach(), [self.ours.pk])

    def test_a_role_below_that_of_an_editor_neither_opens_nor_closes_a_blog(self) -> None:
        add_member(self.ours, self.ada, Role.REVIEWER)
        self.assertEqual(self.reach(), [self.ours.pk])
        add_member(self.theirs, self.ben, Role.EDITOR)
        self.assertEqual(self.reach(), [self.ours.pk, self.theirs.pk])

    def test_a_blog_that_nobody_owns_reaches_no_further_than_itself(self) -> None:
        bare = make_blog("bare")
        self.assertEqual(blogs_within_reach(bare), [bare.pk])

    def test_a_proof_over_everything_says_nothing_of_a_stranger_s_blog(self) -> None:
        proof = make_proof(self.campaign, document_of(latest_revision(self.campaign)), now=NOW)
        self.assertEqual(sorted(item.decision.verdict.value for item in proof.items), ["duplicate", "hold"])
        compared = [note.data for item in proof.items for note in item.decision.trace if note.stage is Stage.MATCH]
        self.assertFalse([data for data in compared if "blog" in data])

    def test_a_run_finds_what_is_on_a_blog_within_reach_and_writes_nothing_to_it(self) -> None:
        add_member(self.theirs, self.ben, Role.EDITOR)
        before = (PostKey.objects.count(), NearKeys.objects.count())
        run(self.campaign)
        self.assertEqual(
            set(Decision.objects.filter(campaign=self.campaign).values_list("verdict", flat=True)), {"duplicate"}
        )
        self.assertEqual((PostKey.objects.count(), NearKeys.objects.count()), before)
        self.assertFalse(AlsoAt.objects.exists())
        self.assertFalse(Post.objects.filter(blog=self.ours).exists())

    def test_a_post_of_the_own_blog_goes_before_one_of_another(self) -> None:
        add_member(self.theirs, self.ben, Role.EDITOR)
        run(make_campaign(self.ours, "Own", match={"against": "blog"}))
        run(self.campaign)
        refs = {decision.reason["data"]["blog"] for decision in Decision.objects.filter(campaign=self.campaign)}
        self.assertEqual(refs, {self.ours.pk})

    def test_who_has_no_role_there_reads_that_there_is_a_post_and_nothing_of_it(self) -> None:
        add_member(self.theirs, self.ben, Role.EDITOR)
        add_member(self.ours, self.eve, Role.REVIEWER)
        run(self.campaign)
        decision = Decision.objects.filter(campaign=self.campaign)[0]
        path = f"/api/blogs/ours/decisions/{decision.pk}"
        given = {name: self.notes(user, path)[0] for name, user in (("ben", self.ben), ("eve", self.eve))}
        self.assertEqual(given["ben"]["data"]["blog"], self.theirs.pk)
        self.assertEqual(
            given["eve"]["data"], {"against": "everything", "join": True, "within_pass": False, "hidden": True}
        )

    @staticmethod
    def notes(user: Any, path: str) -> list[dict[str, Any]]:  # noqa: ANN401
        client = Client()
        client.force_login(user)
        return [note for note in client.get(path).json()["trace"] if note["stage"] == "match"]


class Readable(TestCase):
    """Traces from before the blog of a post was put on record, and posts that only came near."""

    def note(self, **data: Any) -> dict[str, Any]:  # noqa: ANN401
        return {"stage": "match", "code": "match.link", "rule": "link", "against": True, "data": data}

    def test_a_post_whose_blog_is_not_on_record_is_looked_up(self) -> None:
        blog = make_blog()
        fill(make_source(blog), [1])
        run(make_campaign(blog))
        old = self.note(ref=f"post:{Post.objects.get().pk}", title=MARK, against="everything")
        self.assertEqual(readable_notes([old], {blog.pk})[0]["data"]["title"], MARK)
        self.assertNotIn(MARK, str(readable_notes([old], set())))
        self.assertNotIn(MARK, str(readable_notes([self.note(ref="post:0", title=MARK, against="everything")], {1})))

    def test_of_a_post_that_only_came_near_nothing_is_said(self) -> None:
        near = self.note(against="everything", nearest={"ref": "post:7", "blog": 7, "title": MARK})
        self.assertEqual(readable_notes([near], {1})[0]["data"], {"against": "everything"})
        self.assertEqual(readable_notes([near], {7}), [near])

    def test_an_item_of_the_same_pass_is_no_post_of_anybody(self) -> None:
        item = self.note(ref="item:club:1", title="Ours", against="everything")
        self.assertEqual(readable_notes([item], set()), [item])


class Sections(TestCase):
    def setUp(self) -> None:
        self.owner = make_user()
        blog = make_blog(owner=self.owner)
        fill(make_source(blog), [1])
        run(make_campaign(blog, place={"category": "Behind doors", "visibility": "private"}))
        fill(make_source(blog, "wire"), [2])
        run(make_campaign(blog, "Open", ("wire",), place={"category": "In the open"}))

    def test_a_category_of_private_posts_alone_is_shown_to_nobody_else(self) -> None:
        page = Client().get("/blog/meadow/").content.decode()
        self.assertIn("In the open", page)
        self.assertNotIn("Behind doors", page)
        self.assertNotContains(Client().get("/blog/meadow/section/behind-doors/"), "Behind doors", status_code=404)

    def test_private_posts_stand_in_no_list_of_a_stranger(self) -> None:
        make_source(Blog.objects.get(), "other", stories=3)
        run(
            make_campaign(
                Blog.objects.get(), "More", ("other",), place={"category": "In the open"}, match={"rules": []}
            )
        )
        Post.objects.filter(campaign__name="Open").update(visibility="private", title="A secret of ours")
        page = Post.objects.filter(campaign__name="More")[0].slug
        for path in ("", "section/in-the-open/", f"{page}/", "no-such-post/", "feed.xml", "atom.xml"):
            answer = Client().get(f"/blog/meadow/{path}")
            self.assertNotIn("A secret of ours", answer.content.decode(), path)

    def test_a_post_that_opens_with_a_phrase_is_in_no_feed(self) -> None:
        Post.objects.filter(campaign__name="Open").update(
            visibility="phrase", pass_phrase="open", title="Closed to you"
        )
        for path in ("feed.xml", "atom.xml"):
            self.assertNotIn("Closed to you", Client().get(f"/blog/meadow/{path}").content.decode())
        self.assertIn("Closed to you", Client().get("/blog/meadow/").content.decode())

    def test_who_works_on_the_blog_finds_it(self) -> None:
        client = Client()
        client.force_login(self.owner)
        self.assertContains(client.get("/blog/meadow/"), "Behind doors")
        self.assertContains(client.get("/blog/meadow/section/behind-doors/"), "Behind doors")


class EveryOperation(ApiCase):
    """A member of another blog calls every operation.

    No answer has a word of this blog.
    """

    def setUp(self) -> None:
        super().setUp()
        self.alien = make_user("alien")
        self.other = make_blog("other", self.alien)
        self._mark(self.blog)
        make_campaign(self.other, "Sky", sources=(), match={"against": "everything"})

    def _mark(self, blog: Blog) -> None:
        """Put the secret word into every text that the blog holds."""
        for model in apps.get_models():
            texts = [field.name for field in model._meta.fields if field.name in TEXTS]
            if not texts or model._meta.app_label not in APPS:
                continue
            for row in model.objects.all():
                owner = row.pk if model is Blog else getattr(row, "blog_id", blog.pk)
                if owner == blog.pk:
                    model.objects.filter(pk=row.pk).update(**dict.fromkeys(texts, f"{MARK} {row.pk}"))

    def test_no_answer_holds_a_word_of_a_blog_where_one_has_no_role(self) -> None:
        for method, path, body, _ in self.endpoints():
            for where in (path, path.replace("/blogs/meadow", "/blogs/other")):
                with self.subTest(f"{method} {where}"):
                    answer = self.call(self.alien, method, where, body)
                    self.assertNotIn(MARK, text_of(answer))
                    if where == path:
                        self.assertEqual(answer.status_code, 404)

    def test_the_owner_finds_the_word_so_that_the_test_can_fail(self) -> None:
        found = [
            path
            for method, path, body, _ in self.endpoints()
            if method == "GET" and MARK in text_of(self.call(self.owner, method, path, body))
        ]
        self.assertGreater(len(found), 12, found)
