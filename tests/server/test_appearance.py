"""The look of a blog: what an owner chooses is checked, shown, and can be tried before."""

import json
from datetime import UTC, datetime
from typing import Any

from django.test import Client, TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.roles import Role
from glyptarch_server.posts.models import Post

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run


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
        look: dict[str, Any] = {
            "front": "class",
            "masthead": "plain",
            "accent": "#1f6d8a",
            "foot": "A <b>club</b> of eight.",
        }
        look["list_pictures"] = {"ratio": "1:1", "fit": "fit"}
        answer = self.send("PUT", "appearance", appearance=look, version=self.blog.version)
        self.assertEqual((answer.status_code, answer.json()["appearance"]["front"]), (200, "class"))
        page = self.page()
        for part in (
            "front-class masthead-plain",
            "light-dark(#1f6d8a,",
            "--list-ratio: 1 / 1; --list-fit: contain; ",
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
