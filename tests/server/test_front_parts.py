"""The front of a blog in its parts.

Which posts each has, where it stands, and what it costs.
"""

import json
from datetime import timedelta
from typing import Any

from django.db import connection
from django.template.loader import render_to_string
from django.test import Client, TestCase
from django.test.utils import CaptureQueriesContext
from django.utils import translation
from glyptarch_core.appearance import Look
from glyptarch_server import wiring
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog, NameKind
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.page_cache import ENDS_HEADER
from glyptarch_server.front.pages import FieldView
from glyptarch_server.front.parts import Front, PartView, front_in_parts
from glyptarch_server.names.actions import add_name
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.reads import add_reads

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run

_ON_A_PAGE = 13


def _part(kind: str, **values: Any) -> dict[str, Any]:  # noqa: ANN401
    return {"kind": kind, "id": values.pop("id", kind), **values}


class FrontCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        for key in ("club", "wire"):
            fill(make_source(self.blog, key), range(30), published=NOW)
        run(make_campaign(self.blog, sources=("club", "wire"), match={"rules": []}))
        self.posts = list(Post.objects.order_by("pk"))
        for place, post in enumerate(self.posts):
            Post.objects.filter(pk=post.pk).update(date=NOW - timedelta(minutes=place), title=f"Story {place}")
        self.assertEqual(len(self.posts), 60)

    def front(self, *parts: dict[str, Any], member: bool = False) -> Front:
        look = Look.model_validate(
            {"parts": [*parts, *([] if any(p["kind"] == "newest" for p in parts) else [_part("newest")])]}
        )
        with translation.override("en-gb"):
            return front_in_parts(self.blog, look, member=member, on_a_page=_ON_A_PAGE)

    def drawn(self, *parts: dict[str, Any], member: bool = False) -> dict[str, PartView]:
        views = [
            view
            for band in self.front(*parts, member=member).bands
            for view in [*([band.whole] if band.whole else []), *band.wide, *band.narrow]
        ]
        return {view.id: view for view in views}

    def titles(self, view: PartView) -> list[str]:
        return [post.title for post in view.posts]


class WhatStandsWhere(FrontCase):
    def test_no_post_stands_there_twice(self) -> None:
        drawn = self.drawn(_part("opener"), _part("highlights", count=3), _part("briefs", count=4))
        self.assertEqual(self.titles(drawn["opener"]), ["Story 0"])
        self.assertEqual(self.titles(drawn["highlights"]), [f"Story {n}" for n in (1, 2, 3)])
        self.assertEqual(self.titles(drawn["briefs"]), [f"Story {n}" for n in (4, 5, 6, 7)])
        shown = [title for view in drawn.values() for title in self.titles(view)]
        self.assertEqual(len(shown), len(set(shown)))

    def test_the_newest_go_on_until_they_are_worth_a_page_and_lead_to_the_next(self) -> None:
        front = self.front(_part("briefs", count=10))
        newest = front.bands[-1].whole
        assert newest is not None
        self.assertEqual(self.titles(newest), [f"Story {n}" for n in range(10, 26)])
        self.assertEqual(front.older, 3)
        page = Client().get("/blog/meadow/?page=3").content.decode()
        self.assertIn("Story 26<", page)
        self.assertNotIn("Story 25<", page)

    def test_every_post_can_be_reached_whatever_parts_there_are(self) -> None:
        for count in (1, 5, 12, 24):
            with self.subTest(count):
                front = self.front(_part("opener"), _part("highlights", count=count), _part("briefs", count=count))
                shown = {post.title for band in front.bands if band.whole for post in band.whole.posts}
                later = range((front.older - 1) * _ON_A_PAGE, 60) if front.older else ()
                self.assertLessEqual({f"Story {n}" for n in range(60)} - {f"Story {n}" for n in later}, shown)

    def test_columns_that_follow_each_other_share_a_band(self) -> None:
        front = self.front(
            _part("opener"),
            _part("newest", place="wide"),
            _part("briefs", place="narrow"),
            _part("words", text="Write to us.", place="narrow"),
            _part("find"),
        )
        kinds = [
            (band.whole.kind if band.whole else "", [v.kind for v in band.wide], [v.kind for v in band.narrow])
            for band in front.bands
        ]
        self.assertEqual(kinds, [("opener", [], []), ("", ["newest"], ["briefs", "words"]), ("find", [], [])])

    def test_empty_parts_are_left_out(self) -> None:
        drawn = self.drawn(_part("stills"), _part("chosen"), _part("words"), _part("tracks"))
        self.assertEqual(set(drawn), {"newest"})


class MostRead(FrontCase):
    def test_what_was_read_most_stands_there_in_order_and_elsewhere_too(self) -> None:
        today = wiring.clock()().date()
        add_reads({self.posts[9].pk: 3, self.posts[0].pk: 8, self.posts[4].pk: 1}, day=today)
        add_reads({self.posts[20].pk: 90}, day=today - timedelta(days=7))
        drawn = self.drawn(_part("opener"), _part("most-read", count=2))
        self.assertEqual(self.titles(drawn["opener"]), ["Story 0"])
        self.assertEqual(self.titles(drawn["most-read"]), ["Story 0", "Story 9"])
        drawn = self.drawn(_part("most-read", count=2, days=8))
        self.assertEqual(self.titles(drawn["most-read"]), ["Story 20", "Story 0"])

    def test_what_a_reader_may_not_see_is_left_out(self) -> None:
        today = wiring.clock()().date()
        add_reads({self.posts[1].pk: 5, self.posts[2].pk: 2}, day=today)
        Post.objects.filter(pk=self.posts[1].pk).update(visibility="private")
        self.assertEqual(self.titles(self.drawn(_part("most-read", count=1))["most-read"]), ["Story 2"])

    def test_the_page_is_made_anew_within_the_hour(self) -> None:
        look = Look.model_validate({"parts": [_part("most-read"), _part("newest")]})
        Blog.objects.filter(pk=self.blog.pk).update(appearance=look.model_dump(mode="json"))
        ends = int(Client().get("/blog/meadow/")[ENDS_HEADER])
        self.assertTrue(0 < ends - wiring.clock()().timestamp() <= 3600)


class WhichPosts(FrontCase):
    def test_a_section_a_tag_a_source_or_a_kind(self) -> None:
        section, tag = add_name(self.blog, NameKind.CATEGORY, "Meteors"), add_name(self.blog, NameKind.TAG, "Comet")
        self.posts[40].categories.add(section)
        self.posts[41].tags.add(tag)
        Post.objects.filter(pk=self.posts[42].pk).update(kind="film")
        wire = next(place for place, post in enumerate(self.posts) if post.source and post.source.key == "wire")
        for which, title in (
            ({"section": "meteors"}, "Story 40"),
            ({"tag": "comet"}, "Story 41"),
            ({"post_kind": "film"}, "Story 42"),
            ({"source": "wire"}, f"Story {wire}"),
        ):
            with self.subTest(which):
                view = self.drawn(_part("highlights", count=1, which=which))["highlights"]
                self.assertEqual(self.titles(view), [title])

    def test_what_is_no_longer_there_leaves_the_part_empty(self) -> None:
        for which in ({"section": "gone"}, {"tag": "gone"}, {"source": "gone"}):
            with self.subTest(which):
                self.assertEqual(set(self.drawn(_part("highlights", which=which))), {"newest"})

    def test_a_heading_is_that_of_the_section_and_leads_there_unless_there_is_another(self) -> None:
        section = add_name(self.blog, NameKind.CATEGORY, "Meteors")
        self.posts[0].categories.add(section)
        which = {"section": "meteors"}
        usual = self.drawn(_part("briefs", which=which))["briefs"]
        self.assertEqual((usual.heading, usual.link), ("Meteors", "section/meteors/"))
        own = self.drawn(_part("briefs", which=which, heading="Falling"))["briefs"]
        self.assertEqual((own.heading, own.link), ("Falling", "section/meteors/"))

    def test_posts_chosen_by_hand_keep_their_order_and_stand_once(self) -> None:
        chosen = [self.posts[number].pk for number in (50, 1, 30)]
        drawn = self.drawn(_part("chosen", posts=[*chosen, 10**12]), _part("highlights", count=2))
        self.assertEqual(self.titles(drawn["chosen"]), ["Story 50", "Story 1", "Story 30"])
        self.assertEqual(self.titles(drawn["highlights"]), ["Story 0", "Story 2"])

    def test_private_posts_and_drafts_are_shown_to_nobody_by_choosing_them(self) -> None:
        private, draft = self.posts[5], self.posts[6]
        Post.objects.filter(pk=private.pk).update(visibility="private")
        Post.objects.filter(pk=draft.pk).update(state="draft")
        parts = (_part("chosen", posts=[private.pk, draft.pk, self.posts[7].pk]),)
        self.assertEqual(self.titles(self.drawn(*parts)["chosen"]), ["Story 7"])
        self.assertEqual(self.titles(self.drawn(*parts, member=True)["chosen"]), ["Story 5", "Story 7"])

    def test_a_post_of_another_blog_is_not_shown(self) -> None:
        other = make_blog("other")
        fill(make_source(other), range(1), published=NOW)
        run(make_campaign(other))
        stranger = Post.objects.get(blog=other)
        self.assertNotIn("chosen", self.drawn(_part("chosen", posts=[stranger.pk])))

    def test_a_table_has_the_values_of_its_posts_in_columns(self) -> None:
        def value(label: str, text: str) -> dict[str, str]:
            return {"name": label.lower(), "label": label, "type": "text", "value": text}

        for place, fields in enumerate(([value("Price", "12"), value("Weight", "3 kg")], [value("Price", "15")])):
            Post.objects.filter(pk=self.posts[place].pk).update(fields=fields)
        table = self.drawn(_part("table", count=2))["table"]
        self.assertEqual(table.columns, ["Price", "Weight"])
        shown = [[field and field.value for field in row.values] for row in table.rows]
        self.assertEqual(shown, [["12", "3 kg"], ["15", None]])

    def test_numbers_are_written_in_the_language_of_the_page(self) -> None:
        for language, value, written in (
            ("en", 3.7, "3.7"),
            ("en", 3.0, "3"),
            ("en", 3.14159, "3.14"),
            ("de", 3.7, "3,7"),
            ("en", "about four", "about four"),
            ("en", "3,7", "3,7"),
            ("en", float("inf"), "inf"),
        ):
            with self.subTest(value, language=language), translation.override(language):
                fields = {"field": FieldView(label="Stars", type="number", value=value)}
                self.assertEqual(render_to_string("front/field.html", fields).strip(), written)

    def test_values_behind_a_pass_phrase_are_in_no_table(self) -> None:
        fields = [{"name": "price", "label": "Price", "type": "text", "value": "secret price"}]
        Post.objects.filter(pk=self.posts[0].pk).update(fields=fields, visibility="phrase", pass_phrase="owl")
        self.blog.appearance = {"parts": [_part("table"), _part("newest")]}
        self.blog.save()
        self.assertNotIn("secret price", Client().get("/blog/meadow/").content.decode())

    def test_the_sources_are_those_of_the_newest_posts(self) -> None:
        heard = self.drawn(_part("sources"))["sources"].posts
        self.assertEqual(heard[0].title, "Story 0")
        self.assertEqual(len({one.source_key for one in heard}), len(heard))


class Pages(FrontCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = make_user("ida")
        add_member(self.blog, self.owner, Role.OWNER)

    def wear(self, **look: Any) -> str:  # noqa: ANN401
        client = Client()
        client.force_login(self.owner)
        self.blog.refresh_from_db()
        answer = client.generic(
            "PUT",
            "/api/blogs/meadow/appearance",
            json.dumps({"appearance": look, "version": self.blog.version}),
            content_type="application/json",
        )
        self.assertEqual(answer.status_code, 200, answer.content)
        return str(Client().get("/blog/meadow/").content.decode())

    def test_each_ready_front_is_shown(self) -> None:
        for front in ("magazine", "journal", "guide", "screening", "class"):
            with self.subTest(front):
                page = self.wear(front=front)
                self.assertIn(f"front-{front}", page)
                self.assertIn("part-newest", page)
                self.assertIn('href="?page=', page)

    def test_a_text_of_ones_own_runs_nothing(self) -> None:
        page = self.wear(
            parts=[_part("words", text="Join us.\n\n<script>alert(1)</script> https://club.example/"), _part("newest")]
        )
        self.assertIn("<p>Join us.</p>", page)
        self.assertNotIn("<script>alert", page)

    def test_menus_lead_on_the_blog_and_elsewhere(self) -> None:
        page = self.wear(
            menu=[{"label": "A < B", "to": "about/"}, {"label": "Club", "to": "https://club.example/"}],
            foot_menu=[{"label": "Imprint", "to": "imprint/"}],
            logo="/media/logo.png",
        )
        self.assertIn('<a href="/blog/meadow/about/">A &lt; B</a>', page)
        self.assertIn('<a href="https://club.example/" rel="noopener">Club</a>', page)
        self.assertIn('<a href="/blog/meadow/imprint/">Imprint</a>', page)
        self.assertIn('<img class="logo" src="/media/logo.png" alt="Meadow', page)

    def test_css_of_ones_own_is_a_style_sheet_that_loads_nothing_from_elsewhere(self) -> None:
        self.assertNotIn("own.css", self.wear())
        page = self.wear(
            css=".story { color: red; background: url(https://evil.example/x) } @import url(//evil.example);"
        )
        self.assertIn('href="/blog/meadow/own.css?', page)
        answer = Client().get("/blog/meadow/own.css")
        self.assertEqual(answer["Content-Type"], "text/css; charset=utf-8")
        self.assertIn("color: red", answer.content.decode())
        self.assertNotIn("evil", answer.content.decode())

    def test_a_style_sheet_that_is_tried_cannot_end_its_element(self) -> None:
        client = Client()
        client.force_login(self.owner)
        body = {"appearance": {"css": ".a { content: '</style><script>alert(1)</script>' }"}}
        answer = client.post("/api/blogs/meadow/appearance/preview", json.dumps(body), content_type="application/json")
        self.assertEqual(answer.json()["html"].count("</style>"), 1)
        self.assertIn("<\\/style>", answer.json()["html"])

    def test_the_icon_has_the_letters_of_the_blog(self) -> None:
        self.blog.title = "<Dark> & Meadow"
        self.blog.save()
        answer = Client().get("/blog/meadow/icon.svg")
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        self.assertIn(">DM</text>", answer.content.decode())
        self.assertIn('href="/blog/meadow/icon.svg"', Client().get("/blog/meadow/").content.decode())

    def test_parts_that_choose_alike_share_a_query(self) -> None:
        def queries(*parts: dict[str, Any]) -> int:
            with CaptureQueriesContext(connection) as asked:
                self.front(*parts)
            return len(asked)

        few = queries(_part("opener"))
        many = queries(_part("opener"), *(_part("briefs", id=f"b{n}", count=3) for n in range(8)))
        self.assertEqual(few, many)

    def test_a_section_and_a_tag_are_asked_for_once(self) -> None:
        section, tag = add_name(self.blog, NameKind.CATEGORY, "Meteors"), add_name(self.blog, NameKind.TAG, "Comet")
        self.posts[0].categories.add(section)
        self.posts[1].tags.add(tag)
        choices = ({"section": "meteors"}, {"tag": "comet"}, {"section": "gone"})
        parts = [
            _part("briefs", id=f"b{n}", which={**which, "post_kind": kind})
            for n, (which, kind) in enumerate((which, kind) for which in choices for kind in ("", "film"))
        ]
        with CaptureQueriesContext(connection) as asked:
            self.front(*parts)
        by_slug = [each["sql"] for each in asked if '."slug" = ' in each["sql"]]
        self.assertEqual(sum('FROM "blogs_category"' in sql for sql in by_slug), 2)
        self.assertEqual(sum('FROM "blogs_tag"' in sql for sql in by_slug), 1)
