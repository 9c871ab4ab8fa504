"""Editions: posts in the other languages of their blog, made of the finished post."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Membership
from glyptarch_server.editions import making
from glyptarch_server.editions.actions import begin_due
from glyptarch_server.editions.models import Edition
from glyptarch_server.posts.emptying import empty_bin
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.models import Task

from tests.server.fixtures import carry, carry_task, make_campaign
from tests.server.test_services import Services


class Editions(Services):
    """A blog in English, German and Japanese."""

    def setUp(self) -> None:
        super().setUp()
        Membership.objects.filter(blog=self.blog).update(role="owner")
        self.machine = self.service()
        self.languages({"tag": "de", "services": [self.machine]}, {"tag": "ja", "services": [self.machine]})

    def languages(self, *languages: dict[str, Any]) -> None:
        self.ask("PUT", "/languages", document={"languages": list(languages)})
        self.blog.refresh_from_db()

    def hill(self, name: str = "Hill", *, editions: dict[str, str], **release: Any) -> Any:  # noqa: ANN401
        wanted = [{"to": language, "mode": mode} for language, mode in editions.items()]
        return make_campaign(
            self.blog, name, sources=("hill",), sift={"rules": []}, match={"rules": []},
            release={"mode": "publish", "editions": wanted} | release,
        )  # fmt: skip

    def works(self) -> None:
        """Carry out all tasks to their ends."""
        for _ in range(40):
            tasks = list(Task.objects.filter(ended_at=None).order_by("-pk"))
            if not tasks:
                return
            for task in tasks:
                try:
                    carry_task(task.pk, wiring.fetcher(), at=lambda: self.now)
                except LaterError:
                    continue
        raise AssertionError(f"{Task.objects.filter(ended_at=None).count()} tasks do not end")

    def runs(self, campaign: Any) -> None:  # noqa: ANN401
        carry(begin_run(campaign, by=None, now=self.now, queue=False), wiring.fetcher(), at=lambda: self.now)
        self.works()

    def edition(self, language: str) -> Post:
        return Post.objects.get(edition_of__isnull=False, language=language)

    def original(self) -> Post:
        return Post.objects.get(campaign__name="Hill")


class Made(Editions):
    def test_a_campaign_makes_editions_of_what_it_publishes(self) -> None:
        self.runs(self.hill(editions={"de": "publish", "ja": "hold"}))
        original, german, japanese = self.original(), self.edition("de"), self.edition("ja")
        self.assertEqual((original.state, german.state, japanese.state), ("published", "published", "held"))
        self.assertEqual({german.edition_of_id, japanese.edition_of_id}, {original.pk})
        self.assertIn('href="https://velde.example/seats"', german.body)
        self.assertIn("1,250", german.body)
        self.assertNotIn("Visitors", german.body)
        self.assertEqual((german.date, german.attribution), (original.date, original.attribution))
        self.assertEqual([row.state for row in Edition.objects.all()], ["made", "made"])
        charged = dict(self.lingua.charged)
        begin_due(now=self.now)
        self.works()
        self.assertEqual(self.lingua.charged, charged)

    def test_texts_that_come_during_a_pass_are_met_by_another(self) -> None:
        carry(begin_run(self.hill(editions={"de": "publish"}), by=None, now=self.now, queue=False), wiring.fetcher())
        editions = Task.objects.get(kind="editions", ended_at=None)
        with self.assertRaises(LaterError):
            carry_task(editions.pk, wiring.fetcher(), at=lambda: self.now)
        texts = Task.objects.get(kind="services", ended_at=None)

        def answered_late(*_: Any) -> None:  # noqa: ANN401
            carry_task(texts.pk, wiring.fetcher(), at=lambda: self.now)

        with patch.object(making, "_make", side_effect=answered_late), self.assertRaises(LaterError):
            carry_task(editions.pk, wiring.fetcher(), at=lambda: self.now)
        self.works()
        self.assertEqual(self.edition("de").state, "published")

    def test_nothing_is_asked_for_a_held_original_and_all_once_it_is_out(self) -> None:
        self.runs(self.hill(editions={"de": "publish"}, mode="hold"))
        original = self.original()
        self.assertEqual((original.state, self.lingua.texts), ("held", []))
        note = self.ask("POST", "/posts", title="A note of ours")
        self.ask("POST", f"/posts/{note['id']}/state", state="published")
        self.ask("POST", f"/posts/{note['id']}/editions", language="de", mode="publish")
        self.works()
        self.assertEqual(self.lingua.texts, ["A note of ours"])
        Post.objects.filter(edition_of=note["id"]).delete()
        self.ask("POST", f"/posts/{original.pk}/state", state="published")
        begin_due(now=self.now)
        self.works()
        self.assertEqual(self.edition("de").state, "published")

    def test_together_the_original_waits_for_its_editions(self) -> None:
        campaign = self.hill(editions={"de": "publish", "ja": "hold"}, together=True)
        carry(begin_run(campaign, by=None, now=self.now, queue=False), wiring.fetcher(), at=lambda: self.now)
        self.assertEqual(self.original().state, "held")
        self.assertEqual(self.original().decision.trace[-1]["code"], "held.for_editions")
        self.works()
        states = [post.state for post in (self.original(), self.edition("de"), self.edition("ja"))]
        self.assertEqual(states, ["published", "published", "held"])

    def test_what_a_rule_holds_is_not_let_out_by_its_editions(self) -> None:
        hold = {"id": "short", "kind": "few_words", "fewer_than": 900}
        self.runs(self.hill(editions={"de": "publish"}, together=True, hold_when=[hold]))
        self.assertEqual(self.original().state, "held")
        self.assertEqual(self.lingua.texts, [])

    def test_a_link_only_source_is_not_translated(self) -> None:
        self.source.right = "link"
        self.source.save()
        self.runs(self.hill(editions={"de": "publish"}, together=True))
        self.assertEqual((self.original().state, self.lingua.texts), ("published", []))

    def test_a_fault_holds_the_edition_alone(self) -> None:
        self.lingua.fault = "changes_number"
        self.runs(self.hill(editions={"de": "publish"}, together=True))
        german = self.edition("de")
        self.assertEqual((self.original().state, german.state, german.goes_along), ("published", "held", False))
        (row,) = self.ask("GET", f"/posts/{self.original().pk}/editions")[:1]
        self.assertTrue(row["faults"])


class Languages(Editions):
    def test_what_makes_editions_is_not_removed(self) -> None:
        answer = self.ask("DELETE", f"/unused-services/{self.machine}", status=409)
        self.assertIn("“de”, “ja”", answer["detail"])
        self.ask("POST", "/term-tables", name="Names", text="Sky,Himmel\n")
        self.languages({"tag": "de", "names": "names"})
        self.ask("DELETE", "/unused-term-tables/names", status=409)
        self.ask("DELETE", f"/unused-services/{self.machine}", status=204)

    def test_another_language_cannot_become_the_usual_one(self) -> None:
        settings = {"title": "Meadow", "tagline": "", "language": "de-AT", "player_hosts": []}
        answer = self.call(self.editor, "PATCH", "/blogs/meadow", settings)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("other languages", answer.json()["detail"])

    def test_languages_are_checked(self) -> None:
        for language, said in (
            ({"tag": "en-GB"}, "usual language"),
            ({"tag": "de", "services": ["other"]}, "no language service “other”"),
            ({"tag": "de", "glossary": ["other"]}, "no table “other”"),
        ):
            answer = self.ask("PUT", "/languages", status=422, document={"languages": [language]})
            self.assertIn(said, answer["detail"])
        twice = {"languages": [{"tag": "de"}, {"tag": "de"}]}
        self.assertIn("twice", str(self.ask("PUT", "/languages", status=422, document=twice)))

    def test_without_a_service_an_edition_fails_and_can_be_tried_again(self) -> None:
        self.languages({"tag": "de"})
        self.runs(self.hill(editions={"de": "publish"}, together=True))
        self.assertEqual(self.original().state, "published")
        (row,) = self.ask("GET", f"/posts/{self.original().pk}/editions")
        self.assertEqual((row["state"], row["may"], row["faults"][0]["fault"]), ("failed", False, "no_service"))
        self.languages({"tag": "de", "services": [self.machine]})
        self.ask("POST", f"/posts/{self.original().pk}/editions/de/anew")
        self.works()
        self.assertEqual(self.edition("de").state, "published")

    def test_a_task_that_fails_is_not_begun_again_at_once(self) -> None:
        self.runs(self.hill(editions={}))
        self.ask("POST", f"/posts/{self.original().pk}/editions", language="de", mode="hold")
        with patch.object(making.queries, "plan_of", side_effect=RuntimeError):
            carry_task(Task.objects.get(ended_at=None).pk, wiring.fetcher(), at=lambda: self.now)
        begin_due(now=self.now)
        self.assertFalse(Task.objects.filter(ended_at=None).exists())
        begin_due(now=self.now + timedelta(minutes=16))
        self.works()
        self.assertEqual(self.edition("de").state, "held")


class Following(Editions):
    def setUp(self) -> None:
        super().setUp()
        self.runs(self.hill(editions={"de": "publish", "ja": "hold"}))

    def states(self) -> list[str]:
        return [post.state for post in (self.original(), self.edition("de"), self.edition("ja"))]

    def change(self, **what: Any) -> int:  # noqa: ANN401
        return int(self.ask("POST", "/post-changes", ids=[self.original().pk], **what)["id"])

    def test_the_bin_takes_editions_along_and_gives_them_back(self) -> None:
        number = self.change(action="binned")
        self.assertEqual(self.states(), ["binned"] * 3)
        self.ask("POST", f"/post-changes/{number}/take-back")
        self.assertEqual(self.states(), ["published", "published", "held"])
        self.change(action="binned")
        self.change(action="restored")
        self.assertEqual(self.states(), ["published", "published", "held"])

    def test_what_was_left_outlives_its_original(self) -> None:
        self.change(action="binned", alone=True, marker=False)
        german = self.edition("de")
        self.ask("POST", "/post-changes", ids=[self.edition("ja").pk], action="binned")
        empty_bin(self.blog, now=self.now)
        german.refresh_from_db()
        self.assertEqual((german.state, german.edition_of, german.source), ("published", None, None))
        self.assertFalse(Post.objects.filter(language="ja").exists())

    def test_who_may_read_it_is_the_same_in_each_language(self) -> None:
        self.edits(self.original(), visibility="phrase", pass_phrase="dew and frost")
        for language in ("de", "ja"):
            post = self.edition(language)
            self.assertEqual((post.visibility, post.pass_phrase), ("phrase", "dew and frost"))
        self.edits(self.original(), visibility="private")
        self.assertEqual({self.edition(language).visibility for language in ("de", "ja")}, {"private"})
        self.assertEqual(self.client.get(f"/blog/meadow/de/{self.edition('de').slug}/").status_code, 404)

    def test_editions_can_be_left(self) -> None:
        self.change(action="binned", alone=True)
        self.assertEqual(self.states(), ["binned", "published", "held"])
        self.change(action="restored", alone=True)
        self.change(action="moved", to="held", alone=True)
        self.assertEqual(self.states(), ["held", "published", "held"])

    def test_an_edition_that_was_binned_alone_stays_there(self) -> None:
        self.ask("POST", "/post-changes", ids=[self.edition("de").pk], action="binned")
        self.assertEqual(self.states(), ["published", "binned", "held"])
        self.change(action="binned")
        self.change(action="restored")
        self.assertEqual(self.states(), ["published", "binned", "held"])

    def test_what_is_held_holds_its_editions_and_only_those_that_go_along_go_out_again(self) -> None:
        self.change(action="moved", to="held")
        self.assertEqual(self.states(), ["held"] * 3)
        self.change(action="moved", to="published")
        self.assertEqual(self.states(), ["published", "published", "held"])

    def test_a_withdrawn_source_withdraws_them(self) -> None:
        self.ask("POST", f"/sources/{self.source.key}/takedown", asked_by="M. Oakes")
        self.assertEqual(self.states(), ["binned"] * 3)
        (takedown,) = self.ask("GET", "/takedowns")["rows"]
        self.assertEqual(len(takedown["withdrawn"]), 3)

    def test_so_does_a_withdrawn_post(self) -> None:
        self.ask("POST", f"/posts/{self.original().pk}/takedown", asked_by="M. Oakes")
        self.assertEqual(self.states(), ["binned"] * 3)
        (takedown,) = self.ask("GET", "/takedowns")["rows"]
        withdrawn = {post["title"] for post in takedown["withdrawn"]}
        self.assertLessEqual({self.original().title, self.edition("de").title, self.edition("ja").title}, withdrawn)

    def test_a_changed_original_is_followed_by_what_nobody_has_edited(self) -> None:
        german, japanese = self.edition("de"), self.edition("ja")
        self.edits(japanese, title="丘の上")
        asked = len(self.lingua.texts)
        body = self.original().body.replace("in the first week", "in the second week")
        self.edits(self.original(), body=body)
        shown = {row["language"]: row for row in self.ask("GET", f"/posts/{self.original().pk}/editions")}
        self.assertEqual((shown["de"]["behind"], shown["de"]["costs"][0]["texts"]), (1, 1))
        begin_due(now=self.now)
        self.works()
        self.assertEqual(self.lingua.texts[asked:], [self.lingua.texts[asked]])
        german.refresh_from_db()
        self.assertEqual((german.version, german.state, german.edited), (2, "published", []))
        self.assertEqual(self.edition("ja").title, "丘の上")
        begin_due(now=self.now)
        self.works()
        german.refresh_from_db()
        self.assertEqual(german.version, 2)

    def edits(self, post: Post, **values: str) -> None:
        self.ask("PUT", f"/posts/{post.pk}", version=post.version, **values)

    def test_a_person_brings_one_up_to_date_and_sees_its_blocks(self) -> None:
        japanese = self.edition("ja")
        self.edits(japanese, title="丘の上")
        self.edits(self.original(), title="The hill opens at 9.30")
        original = self.original()
        blocks = self.ask("GET", f"/posts/{original.pk}/editions/ja")
        self.assertTrue(blocks["side_by_side"])
        title = blocks["blocks"][0]
        self.assertEqual(
            (title["before"], title["after"], title["changed"]), ("The hill opens at 9.30", "丘の上", True)
        )
        self.assertIn("9.30", title["kept"])
        self.assertEqual(blocks["behind"], 1)
        self.ask("POST", f"/posts/{original.pk}/editions/ja/anew")
        self.works()
        made = self.edition("ja")
        self.assertIn("9.30", made.title)
        self.assertEqual((made.state, made.edited), ("held", []))


class OfOldPosts(Editions):
    def test_a_job_makes_them_and_says_the_cost_before(self) -> None:
        self.runs(self.hill(editions={}))
        found = {"filter": {"campaign": "hill"}, "language": "de", "mode": "publish"}
        asked = self.ask("POST", "/editions", **found, go=False)
        self.assertEqual((asked["posts"], asked["costs"][0]["texts"], self.lingua.texts), (1, 3, []))
        self.assertEqual(self.ask("POST", "/editions", **found)["posts"], 1)
        self.works()
        self.assertEqual(self.edition("de").state, "published")
        self.assertEqual(self.ask("POST", "/editions", **found)["posts"], 0)

    def test_names_of_sections_and_tags_are_those_of_the_language(self) -> None:
        self.ask("POST", "/term-tables", name="Names", text="Sky,Himmel\n")
        self.languages({"tag": "de", "services": [self.machine], "names": "names"})
        self.runs(self.hill(editions={}))
        post = self.original()
        self.edits_names(post)
        self.ask("POST", f"/posts/{post.pk}/editions", language="de", mode="publish")
        self.works()
        german = self.edition("de")
        self.assertEqual(([row.name for row in german.categories.all()], german.category.name), (["Himmel"], "Himmel"))

    def edits_names(self, post: Post) -> None:
        self.ask("PUT", f"/posts/{post.pk}", version=post.version, categories=["Sky"])
