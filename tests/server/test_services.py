"""Language services over HTTP: no fault reaches a post, and nothing is paid twice."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import OperationalError
from glyptarch_core.editions.described import READY
from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Run
from glyptarch_server.runs.queries import waiting_for_texts
from glyptarch_server.services import asking
from glyptarch_server.services.actions import TASK
from glyptarch_server.services.models import Service, ServiceUse, TextRequest, TextRow
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.models import Task
from glyptarch_standins.lingua import LINGUA_FAULTS, LINGUA_KEY

from tests.server.fixtures import NOW, carry, carry_task, fill, make_campaign, make_source
from tests.server.test_platforms import Platforms

BODY = (
    '<p>On Saturday the club of Orrin Velde opens its <a href="https://velde.example/">new observatory</a> on the hill '
    'at 8.45 in the evening, and <a href="https://velde.example/seats">1,250 seats</a> are waiting there.</p>'
    "<p>Visitors pay 12.50 € for a seat, and most of them are expected in the first week of the winter.</p>"
)


class Services(Platforms):
    def setUp(self) -> None:
        super().setUp()
        self.lingua = self.world.lingua
        self.source = make_source(self.blog, "hill")
        fill(self.source, [1], body=BODY, title="The hill opens again", language="en")
        self.now = NOW

    def service(self, form: str = "list", name: str = "", **values: Any) -> str:  # noqa: ANN401
        path = {"list": "texts", "one": "text", "job": "jobs", "chat": "chat"}[form]
        document = READY[form].model_dump(mode="json") | {"address": f"http://{self.host}/lingua/{path}"}
        if form == "job":
            document["poll"] = f"http://{self.host}/lingua/jobs/{{job}}"
        made = self.ask(
            "POST",
            "/services",
            name=name or form,
            document=document | values.pop("document", {}),
            secret=values.pop("secret", LINGUA_KEY),
            **values,
        )
        return str(made["key"])

    def translating(self, *services: str, to: str = "de", name: str = "Hill", **parts: Any) -> Any:  # noqa: ANN401
        rules = {"id": "t", "kind": "translate", "services": list(services), "to": to}
        return make_campaign(
            self.blog, name, sources=("hill",), shape={"steps": [rules]}, sift={"rules": []}, match={"rules": []},
            release={"mode": "publish"}, **parts,
        )  # fmt: skip

    def run_all(self, campaign: Any) -> Run:  # noqa: ANN401
        """Run a campaign, ask for its texts, and carry out the run that follows."""
        carry(begin_run(campaign, by=None, now=self.now, queue=False), wiring.fetcher(), at=lambda: self.now)
        self.now += timedelta(seconds=1)
        for _ in range(30):
            task = Task.objects.filter(ended_at=None).order_by("pk").first()
            if task is None:
                break
            try:
                carry_task(task.pk, wiring.fetcher(), at=lambda: self.now)
            except LaterError as later:
                self.now += timedelta(seconds=later.seconds)
        return Run.objects.filter(campaign=campaign).latest("pk")

    def made_post(self) -> Post:
        return Post.objects.get(campaign__name="Hill")


class Forms(Services):
    def test_each_form_translates_a_post(self) -> None:
        for form in READY:
            with self.subTest(form=form):
                self.run_all(self.translating(self.service(form), name=f"By {form}"))
                post = Post.objects.latest("pk")
                self.assertEqual((post.state, post.language), ("published", "de"), post.decision.trace)
                self.assertIn('href="https://velde.example/"', post.body)
                self.assertIn("12.50", post.body)
                self.assertNotIn("Visitors", post.body)
                Post.objects.all().delete()

    def test_four_scripts(self) -> None:
        service = self.service()
        for language in ("fr", "ru", "ja", "ar"):
            with self.subTest(language=language):
                self.run_all(self.translating(service, to=language, name=f"In {language}"))
                post = Post.objects.latest("pk")
                self.assertEqual((post.state, post.language), ("published", language), post.decision.trace)

    def test_a_run_tells_how_many_wait_and_the_next_one_decides_them(self) -> None:
        campaign = self.translating(self.service())
        last = self.run_all(campaign)
        first = Run.objects.filter(campaign=campaign).earliest("pk")
        self.assertEqual((first.texts_waiting, first.verdicts), (1, {}))
        self.assertEqual((last.texts_waiting, last.verdicts, last.scheduled), (0, {"publish": 1}, True))
        self.assertEqual(waiting_for_texts(self.blog.pk), [])

    def test_no_more_is_asked_for_than_a_run_may_decide(self) -> None:
        fill(self.source, [2, 3, 4], body=BODY.replace("8.45", "9.15"), title="Another hill", language="en")
        campaign = self.translating(self.service(), gather={"at_most": 2, "sources": ["hill"]})
        first = begin_run(campaign, by=None, now=self.now, queue=False)
        carry(first, wiring.fetcher(), batch=1)
        first.refresh_from_db()
        self.assertEqual((first.texts_waiting, first.waits.count(), first.decisions.count()), (2, 2, 0))

    def test_a_text_is_asked_once_for_the_whole_blog(self) -> None:
        service = self.service()
        self.run_all(self.translating(service))
        charged = dict(self.lingua.charged)
        self.run_all(self.translating(service, name="Again"))
        self.assertEqual((self.lingua.charged, Post.objects.get(campaign__name="Again").language), (charged, "de"))

    def test_no_address_and_nothing_hidden_is_told(self) -> None:
        self.run_all(self.translating(self.service()))
        told = " ".join(self.lingua.texts)
        self.assertNotIn("velde.example", told)
        self.assertIn("Orrin Velde", told)

    def test_the_bill(self) -> None:
        service = self.service(price="20", currency="EUR")
        self.run_all(self.translating(service))
        (billed,) = self.ask("GET", f"/services/{service}/bill")
        self.assertEqual((billed["campaign"], billed["texts"]), ("Hill", 3))
        self.assertEqual(billed["characters"], sum(TextRow.objects.values_list("characters", flat=True)))
        self.assertGreater(billed["charged"], 0)


class EachFault(Services):
    def test_none_of_them_reaches_a_post(self) -> None:
        harmless = {"chatter", "slow", "pays_and_fails", "escapes"}
        of_a_chat = ("chatter", "obeys", "fewer", "markup", "cut_in_mark")
        for form, faults in (("list", tuple(LINGUA_FAULTS)), ("chat", of_a_chat)):
            for number, fault in enumerate(faults):
                with self.subTest(form=form, fault=fault):
                    TextRow.objects.all().delete()
                    Service.objects.update(waits_until=None)
                    self.lingua.fault, self.lingua.requests = fault, 0
                    service = self.service(form, name=f"{form} {fault}")
                    self.run_all(self.translating(service, name=f"{form} {number}"))
                    if fault in {"runs_out", "down"}:
                        # Chains below has what runs out; what does not answer leaves the text as it was.
                        continue
                    post = Post.objects.get(campaign__name=f"{form} {number}")
                    self.check_links(post)
                    if fault in harmless:
                        self.assertEqual(post.state, "published", post.decision.trace)
                        continue
                    self.assertEqual(post.state, "held", post.body)
                    for wrong in ("Marlow", "evil.example", "told to write", "<img", "&amp;amp;"):
                        self.assertNotIn(wrong, post.body + post.title)

    def check_links(self, post: Post) -> None:
        for href in ('href="https://velde.example/"', 'href="https://velde.example/seats"'):
            self.assertEqual(post.body.count(href), 1, post.body)
        self.assertEqual(post.body.count("<a "), 2)


class OfTwoSources(Services):
    def test_a_chat_model_gets_the_texts_of_one_source_at_a_time(self) -> None:
        fill(
            make_source(self.blog, "vale"),
            [9],
            body=BODY.replace("Velde", "Marten"),
            title="In the vale",
            language="en",
        )
        both = {"sources": ["hill", "vale"]}
        self.run_all(self.translating(self.service("chat"), gather=both))
        self.assertEqual(len(self.lingua.charged), 2)
        TextRow.objects.all().delete()
        self.lingua.charged.clear()
        self.run_all(self.translating(self.service("list"), gather=both, name="Others"))
        self.assertEqual(len(self.lingua.charged), 1)


class NothingTwice(Services):
    def test_a_worker_killed_after_it_was_charged_pays_once(self) -> None:
        campaign = self.translating(self.service())
        killed = patch.object(asking, "_keep", side_effect=OperationalError("killed"))
        with killed, self.assertRaises(OperationalError):
            self.run_all(campaign)
        self.assertEqual(TextRequest.objects.count(), 1)
        charged = dict(self.lingua.charged)
        self.assertEqual(len(charged), 1)
        self.run_tasks()
        self.assertEqual(self.lingua.charged, charged)
        self.assertEqual((TextRequest.objects.count(), self.made_post().language), (0, "de"))

    def test_a_service_that_charges_and_fails_is_asked_with_the_same_number(self) -> None:
        self.lingua.fault = "pays_and_fails"
        self.run_all(self.translating(self.service(document={"texts_at_once": 1})))
        self.assertEqual(self.made_post().state, "published")
        self.assertEqual(len(self.lingua.charged), 3)

    def run_tasks(self) -> None:
        for _ in range(10):
            task = Task.objects.filter(ended_at=None).order_by("pk").first()
            if task is None:
                return
            carry_task(task.pk, wiring.fetcher(), at=lambda: self.now)


class Chains(Services):
    def test_the_next_one_takes_over(self) -> None:
        first = self.service("one", document={"address": "http://127.0.0.1:9/none"})
        second = self.service()
        self.run_all(self.translating(first, second))
        self.assertEqual(self.made_post().state, "published")
        self.assertEqual(set(TextRow.objects.values_list("by", flat=True)), {second})

    def test_one_that_is_added_answers_what_the_first_could_not(self) -> None:
        self.lingua.fault = "changes_number"
        first = self.service("one")
        self.run_all(self.translating(first))
        self.assertEqual(TextRow.objects.exclude(fault="").count(), 2)
        self.lingua.fault = ""
        told = len(self.lingua.texts)
        self.run_all(self.translating(first, self.service(), name="Both"))
        self.assertEqual(Post.objects.get(campaign__name="Both").state, "published")
        # The title was right before, and is not paid for again.
        self.assertEqual(len(self.lingua.texts), told + 2)

    def test_one_that_does_not_know_the_language_is_not_asked(self) -> None:
        first = self.service("one", document={"languages": {"en": "EN", "fr": "FR"}})
        second = self.service()
        self.run_all(self.translating(first, second))
        self.assertEqual(ServiceUse.objects.filter(service__key=first).count(), 0)
        self.assertEqual(self.made_post().state, "published")

    def test_one_that_is_used_up_leaves_the_texts_waiting_and_says_until_when(self) -> None:
        service = self.service(document={"texts_at_once": 1})
        self.lingua.fault = "runs_out"
        campaign = self.translating(service)
        self.run_all(campaign)
        task = Task.objects.filter(kind=TASK).latest("pk")
        self.assertEqual(task.state, "failed")
        self.assertIn("before 2026-11-24 13:00", task.failure)
        needs = {need["code"]: need["data"] for need in self.ask("GET", "/today")["needs"]}
        self.assertEqual(needs["service_failing"]["texts"], 1)
        self.assertIn("used up", needs["service_failing"]["detail"])
        self.assertFalse(Post.objects.filter(campaign__name="Hill").exists())
        self.lingua.fault = ""
        self.now += timedelta(hours=2)
        self.run_all(campaign)
        self.assertEqual(self.made_post().state, "published")
        self.assertEqual(len(self.lingua.charged), 3)
        self.assertNotIn("service_failing", [need["code"] for need in self.ask("GET", "/today")["needs"]])

    def test_one_whose_answers_cannot_be_read_says_so(self) -> None:
        service = self.service(document={"answer": "nothing.here"})
        self.run_all(self.translating(service))
        (shown,) = self.ask("GET", "/services")["services"]
        self.assertEqual(shown["state"], "unreadable")
        self.assertIn("nothing.here", shown["detail"])
        self.assertEqual(self.made_post().state, "held")

    def test_nothing_is_asked_for_a_blog_that_was_removed(self) -> None:
        campaign = self.translating(self.service())
        carry(begin_run(campaign, by=None, now=self.now, queue=False), wiring.fetcher())
        Blog.objects.filter(pk=self.blog.pk).update(removed_at=NOW)
        carry_task(Task.objects.get(kind=TASK).pk, wiring.fetcher())
        self.assertEqual(Task.objects.get(kind=TASK).state, "failed")
        self.assertEqual(self.lingua.charged, {})

    def test_one_that_does_not_answer_leaves_the_texts_waiting(self) -> None:
        self.lingua.fault = "down"
        campaign = self.translating(self.service())
        self.run_all(campaign)
        self.assertFalse(Post.objects.filter(campaign__name="Hill").exists())
        self.assertEqual(TextRow.objects.filter(answered_at=None).count(), 3)
        self.lingua.fault = ""
        self.now += timedelta(hours=1)
        self.run_all(campaign)
        self.assertEqual(self.made_post().state, "published")

    def test_a_text_that_is_never_answered_holds_up_no_other(self) -> None:
        self.lingua.fault = "down"
        campaign = self.translating(self.service())
        for _ in range(2):
            self.run_all(campaign)
            self.now += timedelta(hours=1)
        faults = list(TextRow.objects.order_by("pk").values_list("fault", flat=True))
        self.assertEqual(faults, ["unreachable", "", ""])
        self.lingua.fault = ""
        self.run_all(campaign)
        self.assertEqual((self.made_post().state, self.made_post().language), ("held", "de"))
        again = self.ask("POST", "/services-again")
        self.assertEqual(again["texts"], 1)
        carry_task(again["task"], wiring.fetcher(), at=lambda: self.now)
        self.assertEqual(set(TextRow.objects.values_list("fault", flat=True)), {""})

    def test_a_limit_a_day_is_kept(self) -> None:
        service = self.service(most_a_day=10, document={"texts_at_once": 1})
        campaign = self.translating(service)
        self.run_all(campaign)
        self.assertEqual(len(self.lingua.charged), 1)
        self.now += timedelta(days=1)
        self.run_all(campaign)
        self.assertEqual(len(self.lingua.charged), 2)

    def test_a_limit_of_a_campaign_is_kept_and_holds_up_no_other(self) -> None:
        service = self.service(document={"texts_at_once": 1})
        shape = {"characters_a_day": 10, "steps": [{"id": "t", "kind": "translate", "services": [service], "to": "de"}]}
        rules = {"sift": {"rules": []}, "match": {"rules": []}, "release": {"mode": "publish"}}
        limited = make_campaign(self.blog, "Limited", sources=("hill",), shape=shape, **rules)
        self.run_all(limited)
        self.assertEqual(len(self.lingua.charged), 1)
        self.assertIn("campaign has sent what it may", Task.objects.latest("pk").failure)
        self.run_all(self.translating(service, to="fr"))
        self.assertEqual(self.made_post().language, "fr")
        self.now += timedelta(days=1)
        self.run_all(limited)
        self.assertEqual(ServiceUse.objects.filter(campaign=limited).count(), 2)

    def test_a_wrong_key_is_said(self) -> None:
        service = self.service(secret="not-it")
        self.run_all(self.translating(service))
        (shown,) = self.ask("GET", "/services")["services"]
        self.assertEqual(shown["state"], "wrong")
        self.assertFalse(Post.objects.filter(campaign__name="Hill").exists())


class Desk(Services):
    def test_no_secret_is_told(self) -> None:
        self.service()
        self.assertNotIn(LINGUA_KEY, str(self.ask("GET", "/services")))
        self.assertNotIn(LINGUA_KEY, Service.objects.get().sealed)

    def test_an_empty_secret_keeps_the_known_one_but_not_at_another_host(self) -> None:
        service = self.service()
        document = Service.objects.get().document
        saved = self.ask("PUT", f"/services/{service}", name="Other", document=document, secret="")
        self.assertEqual((saved["name"], saved["has_secret"]), ("Other", True))
        elsewhere = document | {"address": "https://elsewhere.example/"}
        self.assertFalse(self.ask("PUT", f"/services/{service}", name="Other", document=elsewhere)["has_secret"])

    def test_a_description_that_cannot_work_is_refused(self) -> None:
        for wrong, told in (
            ({"body": "{"}, "no JSON"),
            ({"body": '{"a": "b"}'}, "{text}"),
            ({"body": '{"a": "{text} {nothing}"}'}, "{nothing}"),
            ({"answer": "a["}, "cannot be read"),
            ({"key_header": "Host"}, "header"),
            ({"job": "id"}, "{job}"),
            ({"job": "id", "poll": "https://else.example/{job}"}, "host"),
            ({"address": "ftp://x"}, "pattern"),
        ):
            with self.subTest(wrong=wrong):
                document = READY["list"].model_dump(mode="json") | wrong
                refused = self.ask("POST", "/services", 422, name="x", document=document)
                self.assertIn(told, str(refused))

    def test_a_service_that_rules_ask_stays(self) -> None:
        service = self.service()
        campaign = self.translating(service)
        self.assertEqual(
            [used["name"] for used in self.ask("GET", "/library-uses")["services"][service]], [campaign.name]
        )
        self.ask("DELETE", f"/unused-services/{service}", 409)
        campaign.removed_at = NOW
        campaign.save()
        self.ask("DELETE", f"/unused-services/{service}", 204)
        self.assertEqual(self.ask("GET", "/services")["services"], [])

    def test_a_trial_shows_the_answer_and_what_is_wrong_with_it(self) -> None:
        service = self.service()
        tried = self.ask("POST", f"/services/{service}/try", text="The hill opens at 8.45 for all visitors.")
        self.assertEqual((tried["fault"], "8.45" in tried["answer"]), ("", True))
        self.lingua.fault = "changes_number"
        tried = self.ask("POST", f"/services/{service}/try", text="The hill opens at 8.45 for all visitors.")
        self.assertEqual(tried["fault"], "numbers")
        self.assertFalse(TextRow.objects.exists())

    def test_the_bench_says_the_cost_and_asks_then(self) -> None:
        service = self.service(price="1000", currency="EUR")
        campaign = self.translating(service)
        document = campaign.revisions.get().document
        path = f"/campaigns/{campaign.slug}/proof/texts"
        wanted = {"document": document, "as_of": NOW.isoformat(), "over": {"days": 365}}
        told = self.ask("POST", path, **wanted)
        self.assertEqual((told["items"], told["texts"], told["task"]), (1, 3, None))
        (cost,) = told["costs"]
        self.assertEqual((cost["name"], float(cost["price"])), ("list", cost["characters"] / 1000))
        self.assertFalse(TextRow.objects.exists())
        task = self.ask("POST", path, **wanted, go=True)["task"]
        carry_task(task, wiring.fetcher())
        self.assertEqual(self.ask("POST", path, **wanted)["items"], 0)
        self.assertFalse(Post.objects.filter(campaign__name="Hill").exists())
