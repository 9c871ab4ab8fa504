"""The bench's preview of an item is the page that its post has after a run."""

import json
from datetime import timedelta
from typing import Any

from django.test import Client, TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.roles import Role
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.items.actions import read_and_capture
from glyptarch_server.items.models import Item
from glyptarch_server.platforms.actions import make_connection
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.adding import add_platform_source
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchPortal
from glyptarch_standins.app import World, make_app

from tests.served import served
from tests.server.fixtures import NOW, clock, make_blog, make_campaign, make_user, run

_FEEDS = ("meadowlark", "observatory", "skywire", "ridgecast")
_RULES = {
    "match": {"rules": []},
    "shape": {"excerpt": {"taken_from": "text", "unit": "sentences", "count": 2}},
    "place": {"category": "Sky & stars", "tags": ["night"], "byline": "Desk", "pinned": True, "comments": True},
}


class Preview(TestCase):
    def setUp(self) -> None:
        self.owner = make_user("ida")
        self.blog = make_blog(owner=self.owner)
        add_member(self.blog, self.owner, Role.OWNER)
        serving = served(make_app(World(fixed=NOW)))
        self.host = serving.__enter__()
        self.addCleanup(serving.__exit__, None, None, None)
        self.portal = FetchPortal(allowed=frozenset({self.host}))
        self.addCleanup(self.portal.close)
        Blog.objects.update(player_hosts=[self.host])
        self.client = Client()
        self.client.force_login(self.owner)

    def keys_of_feeds(self) -> list[str]:
        rows = [
            Source.objects.create(
                blog=self.blog, key=name, url=f"http://{self.host}/{name}/feed", title=name, right="full", added_at=NOW
            )
            for name in _FEEDS
        ]
        return [row.key for row in rows]

    def key_of_films(self) -> str:
        fields = {"token": "films-token-of-the-vale"}
        address = f"http://{self.host}/api/films"
        connection = make_connection(self.blog, "films", name="Films", address=address, fields=fields, now=NOW)
        asked = {"channel": "ridgefilms", "order": "newest"}
        return add_platform_source(
            self.blog, "films", "Films", connection=connection.key, parameters=asked, search_words=[], now=NOW
        ).key

    def previews(self, campaign: Campaign) -> dict[int, str]:
        document = document_of(latest_revision(campaign)).model_dump(mode="json")
        pages = {}
        for item in Item.objects.filter(source__blog=self.blog).order_by("-dated")[:60]:
            body = {"document": document, "item": item.pk, "as_of": NOW.isoformat(), "over": {"days": 365}}
            answer = self.client.post(
                f"/api/blogs/meadow/campaigns/{campaign.slug}/proof/preview",
                json.dumps(body),
                content_type="application/json",
            )
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            pages[item.pk] = answer.json()["html"]
        return pages

    def page_of(self, post: Post) -> str:
        return str(self.client.get(f"/api/blogs/meadow/posts/{post.pk}/preview").json()["html"])

    def test_each_item_of_the_demo_s_world(self) -> None:
        keys = (*self.keys_of_feeds(), self.key_of_films())
        for source in Source.objects.all():
            read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        campaign = make_campaign(self.blog, sources=keys, **_RULES)
        before = self.previews(campaign)
        run(campaign)
        posts = {post.item_id: post for post in Post.objects.filter(item__in=before)}
        self.assertEqual(set(posts), set(before))
        pages = {number: self.page_of(post) for number, post in posts.items()}
        for number, page in pages.items():
            self.assertEqual(before[number], page, posts[number].title)
        everything = "".join(pages.values())
        for part in ('<details class="player"', "<audio", '<figure class="lead"', "Pinned"):
            self.assertIn(part, everything)

    def changed(self, campaign: Campaign, number: int, change: Any) -> tuple[str, str]:  # noqa: ANN401
        before = self.previews(campaign)[number]
        change()
        return before, self.previews(campaign)[number]

    def test_a_change_outside_the_rules_is_seen_at_once(self) -> None:
        (key, *_) = self.keys_of_feeds()
        source = Source.objects.get(key=key)
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        campaign = make_campaign(self.blog, sources=(key,), **_RULES)
        number = Item.objects.order_by("-dated")[0].pk
        for name, change in (
            ("right", lambda: Source.objects.filter(key=key).update(right="link")),
            ("name", lambda: Source.objects.filter(key=key).update(title="Another name")),
            (
                "title",
                lambda: Item.objects.filter(pk=number).update(
                    title="Another title", changed_at=NOW + timedelta(hours=1)
                ),
            ),
        ):
            with self.subTest(name):
                before, after = self.changed(campaign, number, change)
                self.assertNotEqual(before, after)
