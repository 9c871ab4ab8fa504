"""Categories, tags, bylines and dates of posts."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.draft import Draft
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Captured
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, Renamed, TableRow
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import Passage, key_phrases
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document

CONTEXT = BlogContext(language="en", tags=("Comets", "Dark sites"), bylines=("Ada Finch",))


def placed(item: Captured, context: BlogContext = CONTEXT, **place: Any) -> Draft:  # noqa: ANN401
    decision = decide([item], document(place=place), memory=FakeMemory(), now=NOON, context=context)[0]
    assert decision.draft is not None
    return decision.draft


class Categories(SimpleTestCase):
    table = {"id": "t", "kind": "table", "rows": [{"word": "Cómets", "name": "Comets"}]}

    def test_a_table_turns_the_sources_words_into_ours(self) -> None:
        item = captured(categories=("COMETS", "gear"))
        self.assertEqual(placed(item, category="News", category_rules=[self.table]).categories, ("Comets", "News"))

    def test_an_unmapped_word_makes_a_category_falls_back_or_is_ignored(self) -> None:
        item = captured(categories=("gear",))
        for unmapped, expected in [("create", ("gear",)), ("fall_back", ("News",)), ("ignore", ("News",))]:
            with self.subTest(unmapped):
                rules = [{**self.table, "unmapped": unmapped}]
                self.assertEqual(placed(item, category="News", category_rules=rules).categories, expected)
        self.assertEqual(placed(item, category_rules=[{**self.table, "unmapped": "ignore"}]).categories, ())

    def test_terms_and_keyword_give_categories_in_the_order_of_the_rules(self) -> None:
        rules = [
            {"id": "k", "kind": "keyword", "unmapped": "create"},
            {"id": "w", "kind": "terms", "name": "Meteors", "terms": ["fireball*"]},
            {"id": "f", "kind": "fixed", "names": ["Night"]},
        ]
        item = captured(body="<p>Two fireballs over the ridge.</p>", facts={"keyword": "Perseids"})
        self.assertEqual(placed(item, category_rules=rules).categories, ("Perseids", "Meteors", "Night"))
        self.assertEqual(placed(item, category_rules=rules, at_most_categories=1).categories, ("Perseids",))

    def test_a_word_list_of_the_blog_gives_terms_of_a_category(self) -> None:
        rule = {"id": "w", "kind": "terms", "name": "Meteors", "lists": ["showers"]}
        item = captured(title="The Lyrids are back")
        context = BlogContext(lists={"showers": ("lyrids", "leonids")})
        self.assertEqual(placed(item, context, category_rules=[rule]).categories, ("Meteors",))
        self.assertEqual(placed(item, BlogContext(), category_rules=[rule]).categories, ())

    def test_names_that_were_renamed_stand_in_their_present_form_and_once(self) -> None:
        renamed = Renamed(
            categories=(("news", "Notes"), ("gear", "Scopes")),
            tags=(("comets", "Visitors"),),
            bylines=(("desk", "Ada"),),
        )
        rules = [{"id": "f", "kind": "fixed", "names": ["Gear", "News", "Notes"]}]
        draft = placed(
            captured(), BlogContext(renamed=renamed), category_rules=rules, tags=["Comets", "moon"], byline="Desk"
        )
        self.assertEqual(
            (draft.categories, draft.tags, draft.byline), (("Scopes", "Notes"), ("Visitors", "moon"), "Ada")
        )

    def test_a_rule_by_words_needs_a_term_or_a_list(self) -> None:
        with self.assertRaisesRegex(DocumentError, "at least one term or word list"):
            document(place={"category_rules": [{"id": "w", "kind": "terms", "name": "Meteors"}]})

    def test_the_trace_says_what_a_category_was_given_for(self) -> None:
        rules = document(place={"category_rules": [self.table]})
        trace = decide([captured(categories=("comets",))], rules, memory=FakeMemory(), now=NOON)[0].trace
        note = next(note for note in trace if note.rule == "t")
        self.assertEqual((note.code, note.data["given"]), ("category.given", [{"name": "Comets", "because": "comets"}]))


class Tags(SimpleTestCase):
    def tags(self, item: Captured, *rules: dict[str, Any], **place: Any) -> tuple[str, ...]:  # noqa: ANN401
        numbered = [{"id": f"r{number}", **rule} for number, rule in enumerate(rules)]
        return placed(item, tag_rules=numbered, **place).tags

    def test_they_come_from_the_source_and_from_hashtags(self) -> None:
        item = captured(categories=("#ridge", "Dome"), body="<p>A night #aurora #Dome</p>")
        self.assertEqual(self.tags(item, {"kind": "source"}, {"kind": "hashtags"}), ("ridge", "Dome", "aurora"))

    def test_terms_that_sift_found_become_tags_as_they_stand(self) -> None:
        rules = document(
            sift={"rules": [{"id": "s", "kind": "terms", "terms": ["fireball*", "nowhere"]}]},
            place={"tag_rules": [{"id": "m", "kind": "matched"}]},
        )
        decision = decide([captured(body="<p>Fireballs came.</p>")], rules, memory=FakeMemory(), now=NOON)[0]
        self.assertEqual(decision.draft and decision.draft.tags, ("fireballs",))

    def test_a_known_name_keeps_its_form_and_only_known_ones_can_be_asked_for(self) -> None:
        item = captured(categories=("comets", "gear"))
        self.assertEqual(self.tags(item, {"kind": "source"}), ("Comets", "gear"))
        self.assertEqual(self.tags(item, {"kind": "source"}, only_existing_tags=True), ("Comets",))

    def test_an_emoji_is_known_by_itself_where_only_known_names_are_asked_for(self) -> None:
        rules = document(place={"tag_rules": [{"id": "t", "kind": "source"}], "only_existing_tags": True})
        item, context = captured(categories=("🔭", "🌙")), BlogContext(tags=("🌙",))
        decision = decide([item], rules, memory=FakeMemory(), now=NOON, context=context)[0]
        self.assertEqual(decision.draft and decision.draft.tags, ("🌙",))

    def test_removed_words_and_the_limit_hold_over_every_rule(self) -> None:
        item = captured(categories=("gear", "dome", "field"))
        self.assertEqual(self.tags(item, {"kind": "source"}, remove_tags=["gear"], at_most_tags=1), ("dome",))

    def test_a_word_list_of_the_blog_says_what_is_never_a_tag(self) -> None:
        item = captured(categories=("gear", "dome"))
        rules = {"tag_rules": [{"id": "t", "kind": "source"}], "remove_lists": ["trade"]}
        self.assertEqual(placed(item, BlogContext(lists={"trade": ("gear",)}), **rules).tags, ("dome",))


class KeyPhrases(SimpleTestCase):
    def phrases(self, title: str, text: str = "", **more: Any) -> list[str]:  # noqa: ANN401
        return key_phrases(Passage(title), Passage(text), **{"language": "en", **more})

    def test_a_title_in_a_script_without_spaces_is_parted_into_words(self) -> None:
        self.assertEqual(
            self.phrases("彗星出现在老磨坊上空的夜晚", "彗星出现", language="zh"), ["彗星出现", "磨坊", "上空"]
        )
        self.assertEqual(self.phrases("ดาวหางเหนือโรงสีเก่า", "ดาวหางสว่าง", language="th", at_most=2), ["ดาวหาง", "เหนือ"])
        self.assertEqual(
            self.phrases("彗星观测：老磨坊", "彗星观测和老磨坊", language="zh", least_letters=3), ["彗星观测", "老磨坊"]
        )

    def test_what_the_text_repeats_comes_first(self) -> None:
        text = "The ridge comet rose. A ridge comet again, and the vale."
        self.assertEqual(self.phrases("The ridge comet over the vale", text), ["ridge comet", "vale"])

    def test_stop_words_go_by_the_language(self) -> None:
        self.assertEqual(self.phrases("Der Komet und die Wiese", language="de-AT"), ["komet", "wiese"])
        self.assertIn("und die wiese", self.phrases("und die Wiese", "und die Wiese", language="xx"))

    def test_short_and_numeric_words_are_no_tags(self) -> None:
        self.assertEqual(self.phrases("In 2026: UFO at 12", least_letters=4), [])
        self.assertEqual(self.phrases("In 2026: UFO at 12", least_letters=3), ["ufo"])

    def test_a_number_stays_with_the_word_before_it(self) -> None:
        text = "The Mossglass 15 is here. The Mossglass 15 is light."
        self.assertEqual(self.phrases("Mossglass 15 and 20 tips", text), ["mossglass 15", "tips"])
        repeated = "A 15 lamp here. A 15 lamp there. The Mossglass 15 lamp."
        self.assertNotIn("15 lamp", self.phrases("Mossglass 15 lamp", repeated))

    def test_vowel_signs_part_no_word(self) -> None:
        self.assertEqual(self.phrases("दूरबीन की रात", "दूरबीन", language="hi"), ["दूरबीन"])

    @given(st.text(max_size=80), st.text(max_size=80), st.integers(1, 5))
    def test_any_text_gives_at_most_so_many_and_none_within_another(self, title: str, text: str, most: int) -> None:
        found = self.phrases(title, text, at_most=most)
        self.assertLessEqual(len(found), most)
        for one in found:
            self.assertFalse([other for other in found if other != one and f" {one} " in f" {other} "])


class Bylines(SimpleTestCase):
    def byline(self, *authors: str, **place: Any) -> str:  # noqa: ANN401
        return placed(captured(authors=authors), byline="Desk", byline_from="author", **place).byline

    def test_an_author_with_a_byline_of_that_name_gets_it(self) -> None:
        self.assertEqual(self.byline("ada finch"), "Ada Finch")
        self.assertEqual(self.byline("Nobody", "Ada Finch"), "Ada Finch")

    def test_a_table_comes_before_the_names_and_the_fixed_one_last(self) -> None:
        table = [{"word": "A. F.", "name": "Ada Finch"}]
        self.assertEqual(self.byline("A F", byline_table=table), "Ada Finch")
        self.assertEqual(self.byline("Nobody"), "Desk")


DAY = timedelta(days=1)


class Dates(SimpleTestCase):
    def dates(
        self,
        number: int,
        memory: FakeMemory | None = None,
        mode: str = "scheduled",
        **place: Any,  # noqa: ANN401
    ) -> list[datetime]:
        batch = [captured(f"i{index}", published=NOON - timedelta(hours=number - index)) for index in range(number)]
        rules = document(place=place, release={"mode": mode}, match={"rules": []})
        decisions = decide(batch, rules, memory=memory or FakeMemory(), now=NOON)
        return [decision.draft.date for decision in decisions if decision.draft]

    def test_so_many_a_day_take_the_free_places_one_after_another(self) -> None:
        dates = {"a_day": 2, "first": (NOON - 10 * DAY).isoformat()}
        self.assertEqual(self.dates(3, date="a_day", dates=dates), [NOON - 10 * DAY, NOON - 9.5 * DAY, NOON - 9 * DAY])
        memory = FakeMemory()
        memory.calendar = [NOON - 10 * DAY, NOON - 9 * DAY]
        self.assertEqual(self.dates(2, memory, date="a_day", dates=dates), [NOON - 9.5 * DAY, NOON - 8.5 * DAY])

    def test_without_a_beginning_the_places_lie_ahead(self) -> None:
        first = self.dates(1, date="a_day", dates={"a_day": 24})[0]
        self.assertEqual(first, NOON)

    def test_what_may_not_lie_ahead_is_dated_now(self) -> None:
        for mode in ("publish", "hold"):
            self.assertEqual(self.dates(2, mode=mode, date="a_day", dates={"a_day": 24}), [NOON, NOON])
        original = captured(published=NOON + DAY)
        rules = document(release={"mode": "scheduled"})
        decision = decide([original], rules, memory=FakeMemory(), now=NOON)[0]
        self.assertEqual((decision.verdict, decision.draft and decision.draft.date), ("scheduled", NOON + DAY))

    def test_between_two_moments_gaps_differ_at_most_by_half(self) -> None:
        ends = {"first": (NOON - 8 * DAY).isoformat(), "last": NOON.isoformat()}
        for number in (1, 3, 7, 20):
            found = sorted(self.dates(number, date="between", dates=ends))
            edges = [NOON - 8 * DAY, *found, NOON]
            gaps = [later - earlier for earlier, later in pairwise(edges)]
            self.assertLessEqual(max(gaps), 2 * min(gaps) + timedelta(seconds=1), number)

    def test_between_two_moments_no_date_is_given_twice_once_a_post_is_gone(self) -> None:
        rules = document(
            place={"date": "between", "dates": {"first": (NOON - 8 * DAY).isoformat(), "last": NOON.isoformat()}},
            match={"rules": []},
        )
        memory = FakeMemory()

        def dated(names: list[str]) -> list[datetime]:
            decisions = decide([captured(name) for name in names], rules, memory=memory, now=NOON)
            return [one.draft.date for one in decisions if one.draft]

        memory.calendar = dated(["a", "b", "c", "d", "e"])[1:]
        self.assertFalse(set(dated(["f", "g"])) & set(memory.calendar))

    def test_spreading_between_two_moments_needs_both(self) -> None:
        with self.assertRaisesRegex(DocumentError, "give both"):
            document(place={"date": "between", "dates": {"first": NOON.isoformat()}})
        with self.assertRaisesRegex(DocumentError, "before the last"):
            document(place={"dates": {"first": NOON.isoformat(), "last": NOON.isoformat()}})

    def test_a_random_date_is_the_same_each_time_and_inside_the_window(self) -> None:
        first, second = (self.dates(30, date="random", dates={"hours": 48}) for _ in range(2))
        self.assertEqual(first, second)
        self.assertTrue(all(NOON - 2 * DAY <= date <= NOON for date in first))
        self.assertGreater(len(set(first)), 25)

    def test_a_random_date_may_lie_ahead_where_release_publishes_by_date(self) -> None:
        place = {"date": "random", "dates": {"hours": 0, "hours_ahead": 24}}
        ahead = self.dates(20, **place)
        self.assertTrue(all(NOON < date <= NOON + DAY for date in ahead))
        self.assertEqual(set(self.dates(20, mode="publish", **place)), {NOON})
        around = self.dates(40, date="random", dates={"hours": 24, "hours_ahead": 24})
        self.assertEqual({date > NOON for date in around}, {True, False})
        with self.assertRaisesRegex(DocumentError, "give one of them"):
            document(place={"dates": {"hours": 0}})

    @given(st.integers(1, 12), st.integers(1, 5), st.sampled_from(["a_day", "between"]))
    def test_many_small_passes_give_the_dates_of_one(self, number: int, size: int, kind: str) -> None:
        dates = {"a_day": 3, "first": (NOON - 9 * DAY).isoformat(), "last": NOON.isoformat()}
        rules = document(place={"date": kind, "dates": dates}, match={"rules": []})
        batch = [captured(f"i{index}", published=NOON - timedelta(hours=number - index)) for index in range(number)]
        whole = [one.draft.date for one in decide(batch, rules, memory=FakeMemory(), now=NOON) if one.draft]
        memory, parts = FakeMemory(), []
        for start in range(0, number, size):
            results = [
                one.draft.date
                for one in decide(batch[start : start + size], rules, memory=memory, now=NOON)
                if one.draft
            ]
            memory.calendar.extend(results)
            parts.extend(results)
        self.assertEqual(parts, whole)


class TheRest(SimpleTestCase):
    def test_search_engines_are_led_to_the_original_of_a_copy(self) -> None:
        words = " ".join(f"word{number}" for number in range(80))
        item = captured("1", body=f"<p>{words}</p>")
        context = BlogContext(tables={"own": (TableRow(what="word1", by="term"),)})

        def canonical(body: str = "{{ body }}", item: Captured = item, canonical: str = "", **shape: Any) -> str:  # noqa: ANN401
            place = {"canonical": canonical} if canonical else {}
            rules = document(place=place, shape={"body": body, **shape})
            draft = decide([item], rules, memory=FakeMemory(), now=NOON, context=context)[0].draft
            assert draft is not None
            return draft.canonical

        cut = "<p>{{ body | strip_html | truncatewords: %d }}</p>"
        self.assertEqual(canonical(), item.item.link)
        self.assertEqual(canonical(cut % 60), item.item.link)
        self.assertEqual(canonical(cut % 40), "")
        self.assertEqual(canonical(cut % 40, canonical="original"), item.item.link)
        self.assertEqual(canonical(canonical="itself"), "")
        reword = {"id": "r", "kind": "reword", "tables": ["own"], "percent": 100}
        self.assertEqual(canonical(steps=[reword]), "")
        # Markup is no text, and a script without spaces is measured as any other.
        self.assertEqual(canonical("{% for n in (1..99) %}<br>{% endfor %}{{ title }}"), "")
        chinese = captured("2", body="<p>" + "山顶的望远镜今晚开放。" * 9 + "</p>")
        self.assertEqual(canonical(item=chinese), chinese.item.link)
        # What has no text cannot be copied.
        self.assertEqual(canonical("<p>Seen.</p>", item=captured("3", body="")), "")

    def test_kind_visibility_language_and_canonical_go_with_the_post(self) -> None:
        draft = placed(
            captured(language="de"), kind="guide", comments=True, pinned=True, visibility="phrase",
            pass_phrase="orrin", canonical="itself",
        )  # fmt: skip
        self.assertEqual((draft.kind, draft.comments, draft.pinned, draft.language), ("guide", True, True, "de"))
        self.assertEqual((draft.visibility, draft.pass_phrase, draft.canonical), ("phrase", "orrin", ""))
        self.assertEqual(placed(captured(language="de"), language="en-GB").language, "en-GB")

    def test_a_pass_phrase_is_asked_for(self) -> None:
        with self.assertRaisesRegex(DocumentError, "pass phrase"):
            document(place={"visibility": "phrase"})


class Branches(SimpleTestCase):
    """Categories of a source that stand in a tree: “Garden > Tomatoes”."""

    def placed(self, *words: str, rows: Sequence[tuple[str, str]] = (), **rule: Any) -> Draft:  # noqa: ANN401
        table = [{"word": word, "name": name} for word, name in rows]
        rules = [{"id": "t", "kind": "table", "rows": table, "unmapped": "create", "separator": ">", **rule}]
        place = {"category": "Usual", "category_rules": rules}
        decision = decide([captured(categories=words)], document(place=place), memory=FakeMemory(), now=NOON)[0]
        assert decision.draft is not None, decision.reason
        return decision.draft

    def test_the_last_name_is_the_category_and_stands_under_the_others(self) -> None:
        draft = self.placed("Garden > Vegetables > Tomatoes")
        self.assertEqual(draft.categories, ("Tomatoes",))
        self.assertEqual(draft.branches, (("Garden", "Vegetables", "Tomatoes"),))

    def test_so_many_names_count_from_the_root(self) -> None:
        self.assertEqual(self.placed("A > B > C > D", depth=2).branches, (("A", "B"),))
        self.assertEqual(self.placed("A > B", depth=1).categories, ("A",))
        self.assertEqual(self.placed("A > B", depth=1).branches, ())

    def test_without_a_separator_a_word_is_one_name(self) -> None:
        draft = self.placed("Garden > Tomatoes", separator="")
        self.assertEqual((draft.categories, draft.branches), (("Garden > Tomatoes",), ()))

    def test_the_table_knows_a_whole_branch_before_its_last_name(self) -> None:
        rows = [("Garden > Tomatoes", "Kitchen garden"), ("Tomatoes", "Red fruit"), ("Garden", "Outdoors")]
        self.assertEqual(self.placed("Garden > Tomatoes", rows=rows).categories, ("Kitchen garden",))
        self.assertEqual(self.placed("House > Tomatoes", rows=rows).categories, ("Red fruit",))
        self.assertEqual(self.placed("Garden > Beans", rows=rows).branches, (("Outdoors", "Beans"),))

    def test_nothing_new_grows_where_other_words_are_ignored(self) -> None:
        draft = self.placed("Garden > Tomatoes", unmapped="ignore")
        self.assertEqual((draft.categories, draft.branches), (("Usual",), ()))

    def test_odd_words_do_no_harm(self) -> None:
        for word in (">", " > > ", "> A", "A >", ">" * 500, "A > " * 300):
            with self.subTest(word[:20]):
                draft = self.placed(word)
                self.assertLessEqual(len(draft.categories), 1)
