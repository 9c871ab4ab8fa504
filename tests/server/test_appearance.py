"""The look of a blog: what an owner chooses is checked, shown, and can be tried before."""

import json
from datetime import UTC, datetime
from typing import Any

from django.test import Client, SimpleTestCase, TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.appearance import Appearance, colours_of, contrast, look_of, mark_of
from glyptarch_server.posts.models import Post
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run

COLOURS = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")


class Colours(SimpleTestCase):
    def test_contrast_is_that_of_the_standard(self) -> None:
        self.assertAlmostEqual(contrast("#000000", "#ffffff"), 21.0)
        self.assertAlmostEqual(contrast("#777777", "#ffffff"), 4.48, places=2)

    def test_a_pale_accent_is_refused_with_one_that_can_be_read(self) -> None:
        with self.assertRaisesRegex(ValidationError, r"cannot be read on the paper.*#[0-9a-f]{6} can") as refused:
            Appearance(accent="#ffcc00")
        better = str(refused.exception).rpartition(" can.")[0][-7:]
        self.assertEqual(Appearance(accent=better).accent, better)
        with self.assertRaisesRegex(ValidationError, "is no colour"):
            Appearance(accent="red")

    def test_what_is_stored_and_no_longer_allowed_gives_way_to_the_usual(self) -> None:
        look = look_of({"front": "newer", "accent": "#ffcc00", "corners": "sharp", "gone": 1})
        self.assertEqual((look.front, look.accent, look.corners), ("magazine", "#8a4b12", "sharp"))

    @given(COLOURS, COLOURS)
    def test_every_look_can_be_read_by_day_and_by_night(self, accent: str, ground: str) -> None:
        try:
            look = Appearance(accent=accent, ground=ground)
        except ValidationError:
            return
        colours = colours_of(look)
        day, night = colours["--lamp"].removeprefix("light-dark(").removesuffix(")").split(", ")
        self.assertGreaterEqual(contrast(day, "#fbfaf6"), 4.5)
        self.assertGreaterEqual(contrast(night, "#0d1420"), 4.5)
        self.assertGreaterEqual(contrast(colours["--on-ground"], ground), 4.5)

    def test_the_mark_of_a_source_is_its_own_and_stays(self) -> None:
        self.assertEqual(mark_of("Orrin Observatory", "orrin"), mark_of("Orrin Observatory", "orrin"))
        self.assertEqual([mark_of(name, "x")[0] for name in ("Orrin Observatory", "skywire", "観測 会", "…")], ["OO", "S", "観会", "•"])  # fmt: skip
        self.assertGreater(len({mark_of("a", f"s{number}")[1] for number in range(40)}), 5)


class Looks(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), range(3), published=NOW)
        run(make_campaign(self.blog))
        self.owner = make_user("ida")
        add_member(self.blog, self.owner, Role.OWNER)
        self.client = Client()
        self.client.force_login(self.owner)

    def send(self, method: str, path: str, **payload: Any) -> Any:  # noqa: ANN401
        return self.client.generic(
            method, f"/api/blogs/meadow/{path}", json.dumps(payload), content_type="application/json"
        )

    def page(self) -> str:
        return str(Client().get("/blog/meadow/").content.decode())

    def test_what_an_owner_chooses_is_on_every_page(self) -> None:
        look = {"front": "class", "masthead": "plain", "accent": "#1f6d8a", "foot": "A <b>club</b> of eight."}
        answer = self.send("PUT", "appearance", appearance=look, version=self.blog.version)
        self.assertEqual((answer.status_code, answer.json()["appearance"]["front"]), (200, "class"))
        page = self.page()
        for part in (
            "front-class masthead-plain",
            "light-dark(#1f6d8a,",
            "A &lt;b&gt;club&lt;/b&gt; of eight.",
            'class="mark"',
        ):
            self.assertIn(part, page)

    def test_what_is_only_tried_is_not_kept(self) -> None:
        tried = self.send("POST", "appearance/preview", appearance={"front": "guide"}, night=True).json()["html"]
        self.assertIn("front-guide", tried)
        self.assertRegex(tried, 'class="[^"]* night"')
        self.assertIn("front-magazine", self.page())

    def test_somebody_else_s_change_is_not_overwritten(self) -> None:
        begun = self.blog.version
        self.send("PUT", "appearance", appearance={"front": "guide"}, version=begun)
        self.assertEqual(self.send("PUT", "appearance", appearance={"front": "class"}, version=begun).status_code, 409)

    def test_a_colour_that_cannot_be_read_names_its_field(self) -> None:
        answer = self.send("PUT", "appearance", appearance={"accent": "#ffff00"}, version=self.blog.version)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("accent", answer.content.decode())

    def test_only_owners_choose(self) -> None:
        editor = make_user("tam")
        add_member(self.blog, editor, Role.EDITOR)
        self.client.force_login(editor)
        self.assertEqual(self.send("PUT", "appearance", appearance={}, version=1).status_code, 403)
        self.assertEqual(self.send("POST", "appearance/preview", appearance={}).status_code, 403)

    def test_a_day_begins_at_midnight_where_the_blog_is(self) -> None:
        Blog.objects.update(time_zone="Asia/Tokyo")
        first, second, third = Post.objects.order_by("pk")
        for post, hour, day in ((first, 20, 23), (second, 10, 24), (third, 9, 23)):
            Post.objects.filter(pk=post.pk).update(date=datetime(2026, 11, day, hour, tzinfo=UTC))
        self.assertIn("<span>2 stories · 1 source</span>", self.page())

    def test_the_front_says_how_many_stories_of_how_many_sources_the_day_has(self) -> None:
        self.assertIn("<b>Tuesday, 24 November 2026</b> <span>3 stories · 1 source</span>", self.page())
