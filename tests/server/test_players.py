"""Film players on the blog: allowed hosts only, and nothing loads before Play is pressed."""

from django.test import TestCase
from glyptarch_server.blogs.actions import change_blog
from glyptarch_server.common.problems import Invalid
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post

from tests.server.fixtures import make_blog, make_campaign, make_source, run

PLAYER = "https://films.example/player/7"


class Players(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        make_source(self.blog, stories=1)
        run(make_campaign(self.blog, release={"mode": "publish"}))
        self.post = Post.objects.get()

    def page(self, hosts: list[str], **facts: object) -> tuple[str, str]:
        Item.objects.filter(pk=self.post.item_id).update(facts=facts)
        change_blog(self.blog, title="B", tagline="", language="en", player_hosts=hosts)
        answer = self.client.get(f"/blog/{self.blog.slug}/{self.post.slug}/")
        return answer.content.decode(), answer["Content-Security-Policy"]

    def test_a_film_of_an_allowed_host_waits_for_a_click(self) -> None:
        text, policy = self.page(["films.example"], player=PLAYER, ratio="1.5")
        self.assertIn('<details class="player" style="--ratio: 1.5">', text)
        self.assertIn(f'<iframe src="{PLAYER}"', text)
        for part in ('loading="lazy"', 'referrerpolicy="no-referrer"', "sandbox="):
            self.assertIn(part, text)
        self.assertIn("frame-src 'self' https://films.example", policy)

    def test_a_refused_comment_leaves_the_film_as_it_was(self) -> None:
        self.page(["films.example"], player=PLAYER)
        answer = self.client.post(
            f"/blog/{self.blog.slug}/{self.post.slug}/comments/", {"name": "", "comment": "Hello"}
        )
        self.assertEqual(answer.status_code, 403)
        self.assertIn("<iframe", answer.content.decode())
        self.assertIn("frame-src 'self' https://films.example", answer["Content-Security-Policy"])

    def test_other_hosts_and_odd_addresses_show_no_player(self) -> None:
        for player in (
            "https://elsewhere.example/7", "javascript:alert(1)", "https://films.example.evil.example/", "//films.example/7",
            "https://x@films.example/7", "http://[", "https://films.example:444/", "",
        ):  # fmt: skip
            text, policy = self.page(["films.example"], player=player)
            self.assertEqual(("<iframe" in text, "frame-src" in policy), (False, False), player)
        self.assertNotIn("<iframe", self.page([], player=PLAYER)[0])

    def body(self, *addresses: str) -> str:
        figures = (f'<figure class="film"><a href="{address}">films.example</a></figure>' for address in addresses)
        Post.objects.update(body=f"<p>Before.</p>{''.join(figures)}<p>After.</p>")
        return self.page(["films.example"])[0]

    def test_a_film_in_the_text_plays_in_its_place_where_its_host_is_allowed(self) -> None:
        text = self.body(PLAYER, "https://elsewhere.example/8")
        self.assertRegex(text, r"(?s)<p>Before.</p><details class=\"player\".*</details>.*<p>After.</p>")
        self.assertEqual(text.count("<iframe"), 1)
        self.assertIn(f'<iframe src="{PLAYER}"', text)
        self.assertIn('<a href="https://elsewhere.example/8">', text)
        self.assertIn("frame-src 'self' https://films.example", self.page(["films.example"])[1])

    def test_addresses_in_the_text_cannot_break_out(self) -> None:
        text = self.body("https://films.example/7?a=1&amp;b=&#34;&gt;&lt;script&gt;alert(1)&lt;/script&gt;")
        self.assertIn("<iframe", text)
        self.assertNotIn("<script>alert", text)

    def test_odd_ratios_do_not_break_the_page(self) -> None:
        for ratio, shown in (("900", "4.0"), ("0.0001", "0.4"), ("", "1.7778")):
            self.assertIn(f"--ratio: {shown}", self.page(["films.example"], player=PLAYER, ratio=ratio)[0])
        self.assertNotIn("<iframe", self.page(["films.example"], player=PLAYER, ratio="wide")[0])

    def test_an_episode_plays_with_its_chapters(self) -> None:
        sound = {"url": "https://club.example/7.mp3", "kind": "sound", "origin": "enclosure"}
        Item.objects.filter(pk=self.post.item_id).update(media=[sound])
        text, _ = self.page([], chapter_list="0:00 Opening\n1:05 The <comet>")
        self.assertIn('<audio controls preload="none" src="https://club.example/7.mp3">', text)
        self.assertIn('href="https://club.example/7.mp3#t=65"><span>1:05</span> The &lt;comet&gt;', text)
        Post.objects.update(body='<audio src="https://club.example/7.mp3"></audio>')
        text, _ = self.page([], chapter_list="0:00 Opening")
        self.assertEqual((text.count("<audio"), "Opening" in text), (1, True))

    def test_hosts_are_names_and_nothing_else(self) -> None:
        with self.assertRaises(Invalid):
            self.page(["https://films.example/"], player=PLAYER)
        self.page([" Films.Example ", "films.example:8443", ""], player=PLAYER)
        self.blog.refresh_from_db()
        self.assertEqual(self.blog.player_hosts, ["films.example", "films.example:8443"])
