"""Hubs are told of new posts, once, and asked again where they fail."""

from datetime import datetime, timedelta
from unittest.mock import patch

from django.test import Client, TestCase, override_settings
from glyptarch_server import wiring
from glyptarch_server.blogs.actions import change_blog
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Invalid
from glyptarch_server.front.tasks import tell_hubs
from glyptarch_server.posts.models import Post
from glyptarch_server.today.answers import today_out
from glyptarch_server.websub.models import HubNotice
from glyptarch_server.wiring import FetchCode, FetchError

from tests.server.fixtures import NOW, CannedPortal, fill, make_blog, make_campaign, make_source, run

HUB = "https://hub.example/"
MINUTE = timedelta(minutes=1)


@override_settings(GLYPTARCH_PUBLIC_ADDRESS="https://almanac.example/")
class Announcing(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        Blog.objects.update(hub=HUB)
        self.source = make_source(self.blog)
        fill(self.source, range(2))
        self.campaign = make_campaign(self.blog)
        run(self.campaign)
        self.portal = CannedPortal({HUB: b""})
        self.now = NOW
        for name, value in (("clock", lambda: lambda: self.now), ("fetcher", lambda: self.portal)):
            patched = patch.object(wiring, name, value)
            patched.start()
            self.addCleanup(patched.stop)

    def round(self, later: timedelta = MINUTE) -> int:
        self.now += later
        before = len(self.portal.asked)
        tell_hubs(0)
        return len(self.portal.asked) - before

    def put_out(self, at: datetime | None = None) -> None:
        Post.objects.filter(pk=Post.objects.order_by("pk")[0].pk).update(out_at=at or self.now)

    def test_what_is_out_already_is_not_told_and_what_comes_is_told_once(self) -> None:
        self.assertEqual((self.round(10 * MINUTE), self.round()), (0, 0))
        self.put_out(self.now)
        self.assertEqual((self.round(), self.round()), (1, 0))
        (request,) = self.portal.asked
        self.assertEqual(request.url, HUB)
        self.assertEqual(request.form[:2], (("hub.mode", "publish"), ("hub.url", "https://almanac.example/blog/meadow/feed.xml")))  # fmt: skip

    def test_the_feeds_of_each_language_are_told(self) -> None:
        Blog.objects.update(languages={"languages": [{"tag": "de"}]})
        self.round(10 * MINUTE)
        self.put_out(self.now)
        self.round()
        told = [value for name, value in self.portal.asked[-1].form if name == "hub.url"]
        self.assertEqual(len(told), 6)
        self.assertIn("https://almanac.example/blog/meadow/de/atom.xml", told)

    def test_the_first_post_of_a_blog_is_told(self) -> None:
        self.assertEqual((self.round(), self.round(), self.round()), (0, 1, 0))

    def test_a_hub_that_fails_is_asked_again_after_longer_pauses(self) -> None:
        self.round(10 * MINUTE)
        self.put_out(self.now)
        self.portal.bodies[HUB] = FetchError(FetchCode.UNREACHABLE, "no answer in time")
        self.assertEqual(self.round(), 1)
        self.assertTrue(HubNotice.objects.get().failure)
        self.assertEqual((self.round(), self.round(MINUTE), self.round(4 * MINUTE)), (1, 0, 1))
        self.portal.bodies[HUB] = b""
        self.assertEqual((self.round(29 * MINUTE), self.round(MINUTE), self.round()), (0, 1, 0))
        self.assertEqual((HubNotice.objects.get().failure, HubNotice.objects.get().tries), ("", 0))

    def test_a_failure_stands_on_today_and_another_hub_is_asked_at_once(self) -> None:
        self.round(10 * MINUTE)
        self.put_out(self.now)
        self.portal.bodies[HUB] = FetchError(FetchCode.UNREACHABLE, "no answer")
        self.round()
        (need,) = [need for need in today_out(Blog.objects.get(), now=self.now).needs if need.code == "hub_failing"]
        self.assertEqual(need.data["hub"], HUB)
        Blog.objects.update(hub="https://other.example/")
        self.portal.bodies["https://other.example/"] = b""
        self.assertEqual((self.round(timedelta(seconds=1)), self.portal.asked[-1].url), (1, "https://other.example/"))
        self.assertNotIn("hub_failing", [need.code for need in today_out(Blog.objects.get(), now=self.now).needs])

    def test_private_posts_and_blogs_without_a_hub_tell_nothing(self) -> None:
        self.round(10 * MINUTE)
        Post.objects.update(visibility="private", out_at=self.now)
        self.assertEqual(self.round(), 0)
        Post.objects.update(visibility="public")
        Blog.objects.update(hub="")
        self.assertEqual(self.round(), 0)

    @override_settings(GLYPTARCH_PUBLIC_ADDRESS="")
    def test_without_a_public_address_nothing_is_told(self) -> None:
        self.round()
        self.put_out(self.now)
        self.assertEqual(self.round(), 0)

    def test_feeds_name_the_hub_on_their_first_page(self) -> None:
        pages = {
            name: Client().get(f"/blog/meadow/{name}").content.decode()
            for name in ("feed.xml", "atom.xml", "feed.json")
        }
        self.assertIn(f'<atom:link href="{HUB}" rel="hub"', pages["feed.xml"])
        self.assertIn(f'<link href="{HUB}" rel="hub"', pages["atom.xml"])
        self.assertIn(f'"hubs": [{{"type": "WebSub", "url": "{HUB}"}}]', pages["feed.json"])

    def test_what_is_no_address_is_refused_and_named(self) -> None:
        for hub in ("hub", "ftp://hub.example/", "https://", "https://hub.example/#x"):
            with self.assertRaises(Invalid) as refused:
                change_blog(self.blog, title="M", tagline="", language="en", player_hosts=[], hub=hub)
            self.assertEqual(refused.exception.faults[0].path, "hub")
        change_blog(self.blog, title="M", tagline="", language="en", player_hosts=[], hub=f" {HUB} ")
        self.assertEqual(Blog.objects.get().hub, HUB)
