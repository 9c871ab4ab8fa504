"""Platforms: values read without trust, captions, paging, paths, and the sharing of a quota."""

import json
from datetime import UTC, datetime

from django.test import SimpleTestCase
from glyptarch_core.errors import ParseError
from glyptarch_core.platforms import platform_of, platforms
from glyptarch_core.platforms.asking import Source, ask_for, read_answer
from glyptarch_core.platforms.model import Answer, PlatformPage
from glyptarch_core.platforms.quota import may_ask
from glyptarch_core.platforms.suggest import Told, suggestions
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.links import linked
from glyptarch_core.text.captions import captions_as_text
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

BASE = "https://api.example/v1/things"
LISTS = {"wire": "stories", "films": "films", "shop": "products", "questions": "questions", "articles": "articles"}
JSON_APIS = ("json", "json_basic", "json_client", "json_person", "json_query")
REQUIRED: dict[str, dict[str, object]] = {
    "notes": {"name": "meadowlark"},
    **{key: {"address": "https://api.example/list"} for key in JSON_APIS},
}
anything = st.recursive(
    st.one_of(st.none(), st.booleans(), st.integers(), st.floats(), st.text(max_size=8)),
    lambda inner: st.one_of(st.lists(inner, max_size=3), st.dictionaries(st.text(max_size=5), inner, max_size=3)),
    max_leaves=8,
)
NAMES = (
    "id uid number title name headline html body text link page href url at posted published asked_at author maker answers "
    "captions media photo photos still price tags topics stars reviews passed_on_from"
).split()


def answer(data: object, **headers: str) -> Answer:
    body = data if isinstance(data, bytes) else json.dumps(data).encode()
    return Answer(body=body, url=BASE, content_type="application/json", **headers)


def read(platform: str, data: object, words: str = "", cursor: str = "", **parameters: object) -> PlatformPage:
    source = Source(platform=platform, parameters={**REQUIRED.get(platform, {}), **parameters}, key="s")
    return read_answer(source, data if isinstance(data, Answer) else answer(data), words, cursor)


class Values(SimpleTestCase):
    def test_what_is_missing_or_of_another_type_reads_as_empty(self) -> None:
        row = Row(
            {"a": {"b": " x  y "}, "n": "3.5", "no": None, "yes": True, "list": ["p", None, "p", 4], "inf": "inf"}
        )
        self.assertEqual((row.text("a.b"), row.text("a.b.c"), row.text("none.b"), row.text("no")), ("x y", "", "", ""))
        self.assertEqual(
            (row.number("n"), row.number("inf"), row.number("yes"), row.number("a")), (3.5, None, None, None)
        )
        self.assertEqual((row.texts("list"), list(row.rows("a"))), (("p", "4"), []))

    def test_an_answer_that_is_no_json_is_told(self) -> None:
        for body in (b"<html>", b"", b"[" * 100_000, b"\xff\xfe"):
            with self.assertRaises(ParseError):
                loaded(body).required_list("stories")

    def test_plain_text_becomes_markup_and_markup_stays(self) -> None:
        row = Row({"plain": "1 < 2\n\nTwo", "markup": "<p>One</p>"})
        self.assertEqual((row.markup("plain"), row.markup("markup")), ("<p>1 &lt; 2</p><p>Two</p>", "<p>One</p>"))


class Captions(SimpleTestCase):
    def test_times_go_and_pauses_part_paragraphs(self) -> None:
        text = (
            "WEBVTT\n\nSTYLE\n::cue {}\n\nNOTE none\n\n1\n00:00.000 --> 00:02.000 align:start\n<v Ida>The comet is\nlow.\n\n"
            "00:02.100 --> 00:04.000\nIt fades.\n\n00:09.000 --> 00:10.000\nLater it rose."
        )
        self.assertEqual(captions_as_text(text), "The comet is low. It fades.\n\nLater it rose.")

    def test_subrip_and_rolling_lines(self) -> None:
        text = "1\r\n00:00:00,000 --> 00:00:01,500\r\nOne.\r\n\r\n2\r\n00:00:01,500 --> 00:00:03,000\r\nOne.\r\n\r\n3\r\n00:00:03,000 --> 00:00:04,000\r\nTwo."
        self.assertEqual(captions_as_text(text), "One. Two.")

    def test_what_is_no_caption_gives_nothing(self) -> None:
        for text in ("", "WEBVTT", "Hello", "00:00 --> x", "WEBVTT\n\n99999:00.000 --> 1"):
            self.assertEqual(captions_as_text(text), "")


class Paging(SimpleTestCase):
    def test_the_next_link_of_a_header(self) -> None:
        header = '</a?page=1>; rel="first", </a?page=3>; title="x, y"; rel="prefetch next"'
        self.assertEqual(linked(header, "next", BASE), "https://api.example/a?page=3")
        for odd in ("", "<x", '<javascript:x>; rel="next"', '</a>; rel="nextish"', "<" * 9000):
            self.assertEqual(linked(odd, "next", BASE), "", odd[:20])


class Adapters(SimpleTestCase):
    def test_each_has_a_form_and_reads_an_empty_answer(self) -> None:
        self.assertEqual(set(platforms()), {"articles", "films", *JSON_APIS, "notes", "questions", "shop", "wire"})
        for key, one in platforms().items():
            self.assertTrue(one.form()["properties"], key)
            self.assertTrue(all(field.get("title") for field in one.form()["properties"].values()), key)
            data: object = [] if key in {"notes", *JSON_APIS} else {LISTS[key]: []}
            self.assertEqual(read(key, data), PlatformPage(items=(), next="", total=None), key)

    def test_another_answer_than_expected_says_what_is_missing(self) -> None:
        for key, name in LISTS.items():
            with self.assertRaisesMessage(ParseError, f"“{name}”"):
                read(key, {"version": 3, "results": {}})

    @given(st.lists(st.dictionaries(st.sampled_from(NAMES), anything, max_size=6), max_size=4), anything)
    def test_any_answer_gives_items_or_an_error(self, rows: list[object], other: object) -> None:
        for key in platforms():
            data: object = (
                rows
                if key in {"notes", *JSON_APIS}
                else {LISTS[key]: rows, "next": other, "total": other, "pages": other}
            )
            read(key, data)
            try:
                read(key, other)
            except ParseError:
                continue

    def test_items_know_the_words_that_found_them(self) -> None:
        page = read("wire", {"stories": [{"id": 1, "headline": "A &amp; B", "href": "/1"}]}, words="comet tail")
        self.assertEqual((page.items[0].facts["keyword"], page.items[0].title), ("comet tail", "A & B"))
        self.assertEqual((page.items[0].link, len(page.features)), ("https://api.example/1", 1))

    def test_parameters_that_do_not_hold_are_told(self) -> None:
        with self.assertRaisesMessage(ParseError, "first and its last day"):
            ask_for(Source(platform="wire", parameters={"span": "archive"}), "", "")
        with self.assertRaisesMessage(ParseError, "no platform"):
            ask_for(Source(platform="none", parameters={}), "", "")

    def test_the_wire_asks_for_the_last_day_or_an_archive(self) -> None:
        latest = ask_for(Source(platform="wire", parameters={"topic": "comets"}), "tail", "2")
        self.assertEqual((latest.path, latest.query), ("/latest", {"q": "tail", "topic": "comets", "page": "2"}))
        days = {"span": "archive", "begin": "2026-11-01", "end": "2026-11-03"}
        archive = ask_for(Source(platform="wire", parameters=days), "", "")
        self.assertEqual(
            (archive.path, archive.query["from"], archive.query["to"]), ("/archive", "2026-11-01", "2026-11-03")
        )
        wire = platform_of("wire")
        assert wire is not None
        self.assertIn("2026-11-01", wire.described(wire.parameters.model_validate(days)))

    def test_a_film_has_its_captions_as_text_where_wished(self) -> None:
        film = {
            "uid": "f1", "name": "Comet", "about": "Short.", "page": "/f1", "seconds": 61, "plays": "1200", "player": "/player/f1",
            "still": {"url": "/s.jpg", "width": 640, "height": 360}, "maker": {"name": "Ida", "place": "Orrin", "followers": 9},
            "captions": [{"language": "en", "text": "WEBVTT\n\n00:00.000 --> 00:01.000\nIt is low."}],
        }  # fmt: skip
        said = read("films", {"films": [film], "next": "c10", "found": 12})
        item = said.items[0]
        self.assertEqual((said.next, said.total, item.authors), ("c10", 12, ("Ida",)))
        self.assertIn("It is low.", item.body)
        self.assertEqual([medium.url for medium in item.media], ["https://api.example/s.jpg"])
        self.assertEqual(item.facts["player"], "https://api.example/player/f1")
        self.assertEqual(
            (item.facts["views"], item.facts["length"], item.facts["author_place"]), (1200.0, 61.0, "Orrin")
        )
        self.assertNotIn("It is low.", read("films", {"films": [film]}, captions=False).items[0].body)

    def test_a_product_has_price_stock_and_reviews(self) -> None:
        product = {
            "number": "G-1", "title": "Lamp", "description": "Red.", "price": {"amount": "29.5", "currency": "EUR", "before": 40},
            "stock": "soon", "stars": 4.2, "features": ["<b>Dim</b>"], "reviews": [{"who": "Ida", "stars": 5, "text": "Good <i>"}] * 3,
        }  # fmt: skip
        item = read("shop", {"products": [product], "total": 41}, reviews=1).items[0]
        self.assertEqual(
            (item.facts["price"], item.facts["availability"], item.facts["list_price"]), (29.5, "on order", "40")
        )
        self.assertEqual((item.body.count("<blockquote>"), "&lt;b&gt;Dim" in item.body), (1, True))

    def test_shop_pages_end_at_the_total_or_at_a_short_page(self) -> None:
        rows = [{"title": f"P {number}", "number": number} for number in range(20)]
        self.assertEqual(read("shop", {"products": rows, "total": 41}, cursor="20").next, "40")
        self.assertEqual(read("shop", {"products": rows[:1], "total": 41}, cursor="40").next, "")
        self.assertEqual([read("shop", {"products": rows}).next, read("shop", {"products": rows[:5]}).next], ["20", ""])

    def test_the_title_of_a_note(self) -> None:
        for html, title in (
            ("<p><b>A comet tonight</b></p><p>More of it. And more.</p>", "A comet tonight"),
            ("<p>It is low in the west. Look early.</p>", "It is low in the west."),
            ("<p>彗星が西の空の低いところに見えます。早めに見てください。</p>", "彗星が西の空の低いところに見えます。"),
            ("<p>आज रात धूमकेतु पश्चिम में दिखेगा। जल्दी देखें।</p>", "आज रात धूमकेतु पश्चिम में दिखेगा।"),
            (
                "<p>Look at <b>this</b> tonight, friends of the sky. Now.</p>",
                "Look at this tonight, friends of the sky.",
            ),
        ):
            self.assertEqual(read("notes", [{"id": 1, "html": html}]).items[0].title, title)
        long = read("notes", [{"id": 1, "html": f"<p>{'word ' * 60}</p>"}]).items[0].title
        self.assertEqual(len(long.removesuffix("…").split()), 14)

    def test_hashtags_of_notes_stay_or_go_and_are_tags(self) -> None:
        note = {
            "id": 1,
            "html": '<p>Seen. <a href="/t/sky">#sky</a> #comet</p>',
            "tags": ["sky"],
            "passed_on_from": None,
        }
        inside = read("notes", [note, {**note, "id": 2, "passed_on_from": {"author": {"name": "W"}}}])
        self.assertEqual((len(inside.items), inside.items[0].categories), (1, ("sky", "comet")))
        self.assertNotIn("#", read("notes", [note], hashtags=False).items[0].body)

    def test_hashtags_with_combining_marks_are_whole(self) -> None:
        note = {"id": 1, "html": "<p>Seen #हिन्दी today</p>", "url": "#top"}
        item = read("notes", [note], of="hashtag", name="हिन्दी").items[0]
        self.assertEqual((item.categories, item.link), (("हिन्दी",), ""))
        body = read("notes", [note], hashtags=False).items[0].body
        self.assertEqual(" ".join(body.split()), "<p>Seen today</p>")

    def test_questions_come_with_their_best_answers(self) -> None:
        answers = [{"body": "One", "votes": 9}, {"body": "Two", "votes": 1, "accepted": True}, {"body": None}]
        rows = [
            {"id": 1, "title": "Why?", "body": "Since?", "answers": answers},
            {"id": 2, "title": "Open?", "answers": None},
        ]
        page = read("questions", {"questions": rows, "has_more": True}, answers=1)
        self.assertEqual((len(page.items), page.next, page.items[0].facts["answers"]), (1, "2", "2"))
        self.assertIn("Two", page.items[0].body)
        self.assertNotIn("One", page.items[0].body)


class JsonApis(SimpleTestCase):
    def test_fields_are_found_by_their_paths(self) -> None:
        data = {
            "d": {
                "rows": [
                    {
                        "meta": {"id": 7, "at": 1795521600},
                        "t": [{"k": "head", "v": "A comet"}],
                        "who": ["Ida", "Ben"],
                        "x": {"y": 2},
                    },
                    4,
                ]
            }
        }
        fields = {
            "id": "meta.id",
            "title": "t[?k=='head'].v | [0]",
            "date": "meta.at",
            "author": "who",
            "own": "x.y",
            "text": "none.of.it",
        }
        page = read("json", data, list="d.rows", fields=fields)
        item = page.items[0]
        self.assertEqual(
            (item.identity, item.title, item.authors, item.facts["own"]), ("7", "A comet", ("Ida", "Ben"), "2")
        )
        self.assertEqual(item.published, datetime(2026, 11, 24, 12, tzinfo=UTC))

    def test_addresses_have_their_variables_filled_in(self) -> None:
        parameters = {"address": "https://a.example/{page}?q={words}", "paging": "page", "first": 0}
        source = Source(platform="json", parameters=parameters)
        self.assertEqual(ask_for(source, "red & blue", "").path, "https://a.example/0?q=red%20%26%20blue")
        self.assertEqual(ask_for(source, "x", "3").path, "https://a.example/3?q=x")

    def test_a_body_has_its_variables_filled_in_as_json(self) -> None:
        body = '{"q": "{words}", "n": {"page": {page}}}'
        parameters = {"address": "https://a.example/", "body": body, "paging": "page"}
        asked = ask_for(Source(platform="json", parameters=parameters), 'a "b" \\ é', "2")
        self.assertEqual(json.loads(asked.body), {"q": 'a "b" \\ é', "n": {"page": 2}})

    def test_prices_are_read_as_people_write_them(self) -> None:
        for written, amount in (
            ("12,99", 12.99), ("$12.99", 12.99), ("1.299,00 €", 1299.0), ("1,299.00", 1299.0), (7, 7.0), ("7.5", 7.5),
            ("from 5 EUR", 5.0), ("on request", None), (None, None),
        ):  # fmt: skip
            item = read("json", [{"title": "A", "p": written}], fields={"title": "title", "price": "p"}).items[0]
            self.assertEqual(item.facts.get("price"), amount, written)

    def test_a_link_into_its_own_document_is_none(self) -> None:
        item = read("json", [{"title": "A", "url": "#top"}]).items[0]
        self.assertEqual(item.link, "")

    def test_every_way_of_paging_leads_on_and_ends(self) -> None:
        row = [{"title": "A", "url": "/1"}]
        for parameters, data, following in (
            ({"address": "https://a.example/{page}", "paging": "page"}, row, "2"),
            ({"address": "https://a.example/{offset}", "paging": "offset"}, row, "1"),
            (
                {"address": "https://a.example/{cursor}", "paging": "cursor", "next": "n", "list": "r"},
                {"r": row, "n": "zz"},
                "zz",
            ),
            (
                {"address": "https://a.example/{cursor}", "paging": "cursor", "next": "n", "list": "r"},
                {"r": row, "n": None},
                "",
            ),
            (
                {"address": "https://a.example/", "paging": "link"},
                answer(row, link='</2>; rel="next"'),
                "https://api.example/2",
            ),
            ({"address": "https://a.example/{page}", "paging": "page"}, [], ""),
            (
                {"address": "https://a.example/", "paging": "address", "next": "n", "list": "r"},
                {"r": row, "n": "/more?page=2"},
                "https://api.example/more?page=2",
            ),
            (
                {"address": "https://a.example/", "paging": "address", "next": "n", "list": "r"},
                {"r": row, "n": "https://evil.example/2"},
                "",
            ),
            (
                {"address": "https://a.example/", "paging": "address", "next": "n", "list": "r", "elsewhere": True},
                {"r": row, "n": "https://cdn.example/2"},
                "https://cdn.example/2",
            ),
        ):
            self.assertEqual(read("json", data, **parameters).next, following, parameters)

    def test_what_cannot_hold_is_refused_with_its_reason(self) -> None:
        platform = platform_of("json")
        assert platform is not None
        for parameters, reason in (
            ({"address": "https://a.example/{pages}"}, "unknown variable"),
            ({"address": "https://{words}.example/"}, "host"),
            ({"address": "https://a.example/", "paging": "page"}, "{page}"),
            ({"address": "https://a.example/{cursor}", "paging": "cursor"}, "cursor of the next"),
            ({"address": "https://a.example/", "list": "a["}, "cannot be read"),
            ({"address": "https://a.example/", "fields": {"title": "map(&a, b)"}}, "not allowed"),
            ({"address": "https://a.example/", "headers": {"Host": "b.example"}}, "“Host” is not a header"),
            ({"address": "https://a.example/", "body": '{"q": {words}}'}, "no JSON"),
            ({"address": "https://a.example/", "body": '{"q": "{term}"}'}, "unknown variable"),
            ({"address": "https://a.example/", "paging": "address"}, "address of the next"),
            ({"address": "https://a.example/", "headers": {"X-Part": "a\r\nHost: b.example"}}, "value of X-Part"),
        ):
            with self.assertRaisesRegex(ValidationError, reason):
                platform.parameters.model_validate(parameters)


class Suggestions(SimpleTestCase):
    def test_phrases_of_kept_items_that_stand_seldom_elsewhere_come_first(self) -> None:
        kept = [
            Told(title="Dust tail of the comet", text="The dust tail grows. The red lamp helps.", language="en")
        ] * 4
        others = [Told(title="Red lamp on offer", text="The red lamp is sold in the shop.", language="en")] * 6
        found = suggestions(kept, others, ["comet"])
        self.assertEqual((found[0].phrase, found[0].kept, found[0].elsewhere), ("dust tail", 4, 0))
        phrases = [one.phrase for one in found]
        self.assertNotIn("red lamp", phrases)
        self.assertNotIn("comet", phrases)
        self.assertNotIn(
            "dust tail", [suggestion.phrase for suggestion in suggestions(kept, others, ["tail dust comet"])]
        )

    def test_little_is_no_ground_for_any(self) -> None:
        one = [Told(title="Dust tail", text="Dust tail.")]
        self.assertEqual((suggestions([], [], []), suggestions(one, [], [])), ([], []))


class Quota(SimpleTestCase):
    """Fifty sources, four workers and 1,000 requests on a simulated day."""

    def day(self, wishes: dict[str, int], *, limit: int = 1000, rounds: int = 288) -> dict[str, int]:
        """Let sources ask round by round as often as they wish.

        Return the number of requests that each got.
        """
        used = dict.fromkeys(wishes, 0)
        for turn in range(rounds):
            for who, wish in wishes.items():
                asked = 0
                while asked < wish and may_ask(who, used, limit=limit, passed=turn / (rounds - 1)):
                    used[who] += 1
                    asked += 1
        return used

    def test_the_quota_is_used_up_to_the_last_request_and_never_broken(self) -> None:
        for wishes in ({f"s{n}": 40 for n in range(50)}, {f"s{n}": (400 if n == 0 else 1) for n in range(50)}):
            used = self.day(wishes)
            self.assertEqual(sum(used.values()), 1000)
            self.assertGreaterEqual(min(used.values()), 20)

    def test_what_others_leave_is_used_by_the_end_of_the_day(self) -> None:
        used = self.day({"greedy": 1000, **{f"s{n}": 0 for n in range(49)}})
        self.assertEqual((used["greedy"], sum(used.values())), (1000, 1000))

    def test_a_source_that_comes_late_finds_its_share(self) -> None:
        used = {"early": 0, "late": 0}
        while may_ask("early", used, limit=100, passed=0.0):
            used["early"] += 1
        self.assertEqual(used["early"], 50)
        while may_ask("late", used, limit=100, passed=0.1):
            used["late"] += 1
        self.assertEqual(used["late"], 50)

    def test_no_limit_is_no_limit(self) -> None:
        self.assertTrue(may_ask("a", {"a": 10**9}, limit=0, passed=0.0))

    def test_more_sources_than_requests_break_nothing(self) -> None:
        self.assertEqual(sum(self.day({f"s{n}": 3 for n in range(30)}, limit=7).values()), 7)
