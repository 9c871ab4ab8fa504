"""Each rule and step by hand-made cases, through the stages' public functions."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import Key, KeyKind, PostRef, Seen
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.trace import Decision, Stage, Verdict


def document(**parts: Any) -> Any:  # noqa: ANN401
    return load_document({"gather": {"sources": ["club"]}, "release": {"mode": "publish"}, **parts})


def one(item: Captured, memory: FakeMemory | None = None, **parts: Any) -> Decision:  # noqa: ANN401
    return decide([item], document(**parts), memory=memory or FakeMemory(), now=NOON)[0]


def sift(item: Captured, **rule: Any) -> Decision:  # noqa: ANN401
    return one(item, sift={"rules": [{"id": "r", **rule}]})


def noted(decision: Decision, rule: str = "r") -> Any:  # noqa: ANN401
    """Return the note of a rule in a trace."""
    return next(note for note in decision.trace if note.rule == rule)


def code(decision: Decision) -> str:
    assert decision.reason is not None
    return decision.reason.code


class Gather(SimpleTestCase):
    def test_an_item_of_another_source_leaves(self) -> None:
        decision = one(captured(source="wire"))
        self.assertEqual((decision.left_at, code(decision)), (Stage.GATHER, "gather.other_source"))

    def test_an_item_of_a_source_with_one_of_the_labels_stays(self) -> None:
        for labels, left_at in ({"Sky", "Odd"}, None), ({"Odd"}, Stage.GATHER), (set[str](), Stage.GATHER):
            item = captured(source="wire")
            item = replace(item, source=replace(item.source, labels=frozenset(labels)))
            self.assertEqual(one(item, gather={"labels": ["Sky", "Clubs"]}).left_at, left_at, labels)

    def test_an_item_from_too_far_back_leaves(self) -> None:
        old = captured(published=NOON - timedelta(days=8))
        gather = {"sources": ["club"], "look_back_days": 7}
        self.assertEqual(code(one(old, gather=gather)), "gather.too_far_back")
        self.assertEqual(one(captured(published=NOON - timedelta(days=7)), gather=gather).left_at, None)

    def test_an_item_from_before_the_first_day_leaves(self) -> None:
        gather = {"sources": ["club"], "not_before": NOON.date().isoformat()}
        before = captured(published=NOON.replace(hour=0) - timedelta(seconds=1))
        self.assertEqual(code(one(before, gather=gather)), "gather.too_early")
        self.assertEqual(one(captured(published=NOON.replace(hour=0)), gather=gather).left_at, None)

    def test_the_body_falls_back_to_the_other_text(self) -> None:
        item = captured(body="", summary="<p>Only this.</p>")
        assert (draft := one(item).draft) is not None
        self.assertEqual(draft.body, "<p>Only this.</p>")


class SiftRules(SimpleTestCase):
    def test_any_all_and_none_of_terms(self) -> None:
        item = captured(title="A comet", body="<p>seen near the Plough</p>")
        cases = [("any", ["meteor", "plough"], True), ("any", ["meteor"], False), ("all", ["comet", "plough"], True),
                 ("all", ["comet", "meteor"], False), ("none", ["meteor"], True), ("none", ["comet"], False)]  # fmt: skip
        for mode, terms, kept in cases:
            with self.subTest(mode=mode, terms=terms):
                self.assertEqual(sift(item, kind="terms", mode=mode, terms=terms).verdict.kept, kept)

    def test_terms_are_looked_for_in_the_chosen_field(self) -> None:
        item = captured(title="A comet", body="<p>text</p>", summary="<p>a summary</p>")
        cases = [
            ("title", "comet", True),
            ("text", "comet", False),
            ("summary", "summary", True),
            ("title_or_text", "text", True),
        ]
        for field, term, kept in cases:
            with self.subTest(field=field):
                self.assertEqual(sift(item, kind="terms", field=field, terms=[term]).verdict.kept, kept)

    def test_where_there_is_no_text_the_summary_stands_for_it(self) -> None:
        item = captured(body="", summary="<p>a comet</p>")
        self.assertTrue(sift(item, kind="terms", field="text", terms=["comet"]).verdict.kept)

    def test_the_trace_shows_the_place_of_a_term(self) -> None:
        decision = sift(captured(body="<p>By night a fireball came.</p>"), kind="terms", terms=["fireball"])
        hit = next(note for note in decision.trace if note.rule == "r").data["hits"][0]  # type: ignore[index, call-overload]
        self.assertEqual((hit["before"], hit["match"], hit["after"]), ("By night a ", "fireball", " came."))

    def test_word_counts_have_bounds(self) -> None:
        item = captured(body="<p>one two three</p>")
        for bounds, kept in [
            ({"at_least": 3}, True),
            ({"at_least": 4}, False),
            ({"at_most": 3}, True),
            ({"at_most": 2}, False),
        ]:
            with self.subTest(bounds):
                self.assertEqual(sift(item, kind="number", **bounds).verdict.kept, kept)

    def test_age_counts_from_the_date_and_else_from_the_capture(self) -> None:
        self.assertTrue(sift(captured(published=NOON - timedelta(hours=24)), kind="age", within_hours=24).verdict.kept)
        self.assertEqual(
            code(sift(captured(published=NOON - timedelta(hours=25)), kind="age", within_hours=24)), "age.old"
        )
        self.assertTrue(sift(captured(published=None), kind="age", within_hours=1).verdict.kept)

    def test_a_failing_rule_can_hold_instead_of_refuse(self) -> None:
        decision = sift(captured(), kind="number", at_least=1000, failing="hold")
        self.assertEqual((decision.verdict, decision.left_at), (Verdict.HOLD, None))
        self.assertEqual(decision.trace[-1].data["rules"], ["r"])

    def test_every_rule_is_asked_even_after_one_refused(self) -> None:
        rules = [{"id": "a", "kind": "number", "at_least": 99}, {"id": "b", "kind": "terms", "terms": ["nothing"]}]
        notes = [note for note in one(captured(), sift={"rules": rules}).trace if note.stage is Stage.SIFT]
        self.assertEqual([(note.rule, note.against) for note in notes], [("a", True), ("b", True)])

    def test_a_trace_calls_a_rule_by_its_title_at_every_stage(self) -> None:
        named = {"title": "Mine", "id": "r"}
        decision = one(
            captured(),
            sift={"rules": [{**named, "kind": "age", "within_hours": 9999}]},
            shape={"steps": [{**named, "kind": "tidy"}]},
            place={"tag_rules": [{**named, "kind": "title"}], "category_rules": [{**named, "kind": "keyword"}]},
            release={"hold_when": [{**named, "kind": "no_picture"}]},
        )
        by_title = [note.stage for note in decision.trace if note.rule == "r" and note.rule_title == "Mine"]
        self.assertEqual(by_title, [Stage.SIFT, Stage.SHAPE, Stage.PLACE, Stage.PLACE, Stage.RELEASE])
        first = Seen(ref=PostRef(7, 1), title="First", link="l", at=NOON)
        memory = FakeMemory({Key(KeyKind.LINK, captured().features.link_key): first})
        same = one(captured(), memory, match={"rules": [{**named, "kind": "link"}]})
        self.assertEqual(noted(same).rule_title, "Mine")

    def test_a_rule_that_is_off_is_not_asked(self) -> None:
        self.assertTrue(sift(captured(), kind="number", at_least=1000, on=False).verdict.kept)


class MatchRules(SimpleTestCase):
    def test_a_known_link_title_or_identity_makes_a_duplicate(self) -> None:
        item = captured(link="https://club.example/x?utm_source=a", title="The long comet")
        for key in (
            Key(KeyKind.LINK, "club.example/x"),
            Key(KeyKind.TITLE, "the long comet"),
            Key(KeyKind.IDENTITY, "club one"),
        ):
            with self.subTest(key.kind):
                memory = FakeMemory({key: Seen(ref=PostRef(7, 1), title="First", link="l", at=NOON)})
                decision = one(item, memory)
                self.assertEqual((decision.verdict, decision.left_at), (Verdict.DUPLICATE, Stage.MATCH))
                self.assertEqual((code(decision), decision.reason.data["ref"]), (f"match.{key.kind}", "post:7"))  # type: ignore[union-attr]

    def test_short_titles_name_no_story(self) -> None:
        memory = FakeMemory({Key(KeyKind.TITLE, "weekly notice"): Seen(ref=PostRef(1, 1), title="", link="", at=NOON)})
        self.assertTrue(one(captured(title="Weekly notice"), memory).verdict.kept)

    def test_of_one_pass_the_earliest_stays(self) -> None:
        late = captured("b", title="The same long story", published=NOON)
        early = captured("a", title="The same long story", published=NOON - timedelta(hours=1))
        verdicts = [decision.verdict for decision in decide([late, early], document(), memory=FakeMemory(), now=NOON)]
        self.assertEqual(verdicts, [Verdict.DUPLICATE, Verdict.PUBLISH])

    def test_a_chain_of_likenesses_ends_in_one_post(self) -> None:
        first = captured("a", title="One long title", link="https://x.example/1", published=NOON - timedelta(hours=3))
        second = captured(
            "b", title="Another long title", link="https://x.example/1", published=NOON - timedelta(hours=2)
        )
        third = captured("c", title="Another long title", link="https://x.example/3", published=NOON)
        decisions = decide([third, second, first], document(), memory=FakeMemory(), now=NOON)
        self.assertEqual([decision.verdict.kept for decision in decisions], [False, False, True])
        self.assertEqual(decisions[0].reason.data["ref"], "item:club:a")  # type: ignore[union-attr]

    def test_a_duplicate_can_be_held_instead(self) -> None:
        memory = FakeMemory({Key(KeyKind.IDENTITY, "club one"): Seen(ref=PostRef(1, 1), title="", link="", at=NOON)})
        self.assertEqual(one(captured(), memory, match={"on_match": "hold"}).verdict, Verdict.HOLD)

    def test_the_memory_is_asked_once_for_a_batch(self) -> None:
        memory = FakeMemory()
        decide([captured(str(number)) for number in range(20)], document(), memory=memory, now=NOON)
        self.assertEqual(memory.calls, 1)

    def test_posts_older_than_the_window_do_not_count(self) -> None:
        old = Seen(ref=PostRef(1, 1), title="", link="", at=NOON - timedelta(days=10))
        memory = FakeMemory({Key(KeyKind.IDENTITY, "club one"): old})
        self.assertTrue(one(captured(), memory, match={"within_days": 9}).verdict.kept)
        self.assertFalse(one(captured(), memory, match={"within_days": 11}).verdict.kept)


PICTURE = Media(url="https://club.example/p.jpg", kind=MediaKind.PICTURE, origin=MediaOrigin.TEXT)
PIXEL = Media(url="https://club.example/1.gif", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED, width=1, height=1)
BODY = '<figure><a href="/x"><img src="https://club.example/p.jpg"></a></figure><p>Text.</p><p>Originally posted on a site.</p>'


class Shape(SimpleTestCase):
    def draft(self, item: Captured, **shape: Any) -> Any:  # noqa: ANN401
        return one(item, shape=shape).draft

    def test_the_lead_picture_is_taken_out_of_the_body_with_its_frame(self) -> None:
        draft = self.draft(captured(body=BODY, media=(PIXEL, PICTURE)))
        self.assertEqual(draft.lead.url, PICTURE.url)
        self.assertNotIn("<figure", draft.body)

    def test_the_lead_picture_can_stay_or_be_none(self) -> None:
        item = captured(body=BODY, media=(PICTURE,))
        self.assertIn("p.jpg", self.draft(item, lead={"take_out_of_body": False}).body)
        self.assertIsNone(self.draft(item, lead={"order": ["enclosure"]}).lead)

    def test_paragraphs_that_hold_a_term_are_dropped(self) -> None:
        steps = [{"id": "s", "kind": "drop_paragraphs", "terms": ["originally posted"]}]
        decision = one(captured(body=BODY), shape={"steps": steps})
        note = next(note for note in decision.trace if note.rule == "s")
        self.assertEqual(note.data["dropped"], ["Originally posted on a site."])
        assert decision.draft is not None
        self.assertNotIn("Originally", decision.draft.body)

    def test_excerpts_come_from_text_or_summary(self) -> None:
        item = captured(body="<p>One. Two. Three.</p>", summary="<p>Sum.</p>")
        self.assertEqual(self.draft(item, excerpt={"unit": "sentences", "count": 2}).excerpt, "One. Two.")
        self.assertEqual(self.draft(item, excerpt={"taken_from": "summary"}).excerpt, "Sum.")

    def test_templates_see_the_item_and_escape_it(self) -> None:
        item = captured(title="A <b> & c", authors=("Ida",))
        draft = self.draft(
            item, title="{{ title }} by {{ author }}", body="<h2>{{ title }}</h2>{{ body }}{{ nothing }}"
        )
        self.assertEqual(draft.title, "A <b> & c by Ida")
        self.assertIn("<h2>A &lt;b&gt; &amp; c</h2><p>Text of", draft.body)

    def test_the_body_is_sanitised_whatever_the_template_says(self) -> None:
        draft = self.draft(captured(body="<p onclick=x>a</p><script>b</script>"), body="{{ body }}<script>c</script>")
        self.assertEqual(draft.body, "<p>a</p>")

    def test_an_item_with_nothing_left_leaves(self) -> None:
        self.assertEqual(code(one(captured(body="", summary=""))), "shape.empty")
        self.assertEqual(code(one(captured(), shape={"title": "{{ nothing }}"})), "shape.empty")

    def test_the_trace_counts_pictures_and_nothing_else(self) -> None:
        kinds = (("a.jpg", MediaKind.PICTURE), ("a.mp3", MediaKind.SOUND), ("a.mp4", MediaKind.FILM))
        media = [Media(url=f"https://club.example/{n}", kind=kind, origin=MediaOrigin.FEED) for n, kind in kinds]
        note = one(captured(media=(*media, media[0]))).trace[0]
        self.assertEqual((note.code, note.data["pictures"]), ("gathered", 1))

    def test_a_picture_or_film_alone_is_a_post(self) -> None:
        for body in (
            '<img src="https://club.example/moon.jpg">',
            '<video src="https://club.example/moon.mp4"></video>',
        ):
            with self.subTest(body):
                self.assertEqual(one(captured(body=body, summary="")).verdict, Verdict.PUBLISH)

    def test_a_template_that_runs_wild_is_stopped_and_the_item_leaves(self) -> None:
        wild = "{% for a in (1..1000) %}{% for b in (1..1000) %}x{% endfor %}{% endfor %}"
        decision = one(captured(), shape={"body": wild})
        self.assertEqual((decision.left_at, code(decision)), (Stage.SHAPE, "shape.template_failed"))

    def test_a_template_reaches_nothing_but_its_variables(self) -> None:
        for template in ("{{ title.__class__ }}", "{{ body.__init__.__globals__ }}", "{{ source.title.upper }}"):
            with self.subTest(template):
                self.assertEqual(self.draft(captured(), title=f"x{template}").title, "x")


class PlaceAndRelease(SimpleTestCase):
    def test_a_post_gets_its_fixed_place(self) -> None:
        place = {"category": "Sky", "tags": ["a", "b", "a"], "byline": "Desk"}
        assert (draft := one(captured(), place=place).draft) is not None
        self.assertEqual((draft.category, draft.tags, draft.byline), ("Sky", ("a", "b"), "Desk"))

    def test_dates_are_original_or_of_the_import_and_never_in_the_future(self) -> None:
        earlier = NOON - timedelta(hours=5)
        for published, setting, wanted in [(earlier, "original", earlier), (earlier, "import", NOON),
                                           (NOON + timedelta(hours=1), "original", NOON)]:  # fmt: skip
            with self.subTest(setting=setting, published=published):
                assert (draft := one(captured(published=published), place={"date": setting}).draft) is not None
                self.assertEqual(draft.date, wanted)

    def test_posts_are_published_held_or_kept_as_drafts(self) -> None:
        for mode in ("publish", "hold", "draft"):
            with self.subTest(mode):
                self.assertEqual(one(captured(), release={"mode": mode}).verdict, Verdict(mode))


class Documents(SimpleTestCase):
    def faults(self, data: Any) -> dict[str, Any]:  # noqa: ANN401
        with self.assertRaises(DocumentError) as caught:
            load_document(data)
        return {fault.path: fault for fault in caught.exception.faults}

    def test_every_fault_is_reported_at_once_with_its_path(self) -> None:
        faults = self.faults({"sift": {"rulez": []}, "gather": {"sources": ["A B"]}, "release": {"mode": "nope"}})
        self.assertEqual(set(faults), {"sift.rulez", "gather.sources.0", "release.mode"})

    def test_a_near_miss_is_named(self) -> None:
        self.assertIn("rules", self.faults({"sift": {"rulez": []}})["sift.rulez"].hint)

    def test_a_broken_template_is_a_fault_of_the_document(self) -> None:
        self.assertIn("line 2", self.faults({"shape": {"body": "a\n{{ title | | }}"}})["shape.body"].message)

    def test_ids_are_unique_and_terms_hold_words(self) -> None:
        rule = {"id": "a", "kind": "number", "at_least": 1}
        self.assertIn("used twice", self.faults({"sift": {"rules": [rule, rule]}})[""].message)
        self.assertTrue(self.faults({"sift": {"rules": [{"id": "a", "kind": "terms", "terms": ["*"]}]}}))

    def test_bounds_that_nothing_can_meet_are_refused(self) -> None:
        rule = {"id": "a", "kind": "number", "at_least": 9, "at_most": 3}
        self.assertIn("at least 9", next(iter(self.faults({"sift": {"rules": [rule]}}).values())).message)

    def test_a_document_survives_being_written_and_read(self) -> None:
        made = document(sift={"rules": [{"id": "a", "kind": "terms", "terms": ["x"]}]})
        self.assertEqual(load_document(made.model_dump(mode="json")), made)
