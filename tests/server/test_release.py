"""Posts that wait for their time, pace over several runs, and who may read what on the blog."""

from datetime import timedelta

import feedparser
from django.db import IntegrityError, transaction
from django.test import Client, TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Role
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.posts.actions import bring_out_due, move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.proofs.prove import make_proof
from glyptarch_server.runs.models import Decision

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, make_user, run, story

DAY = timedelta(days=1)


class Scheduled(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)

    def test_a_post_with_a_date_to_come_waits_and_then_goes_out(self) -> None:
        fill(self.source, [1], published=NOW + DAY)
        run(make_campaign(self.blog, release={"mode": "scheduled"}))
        post = Post.objects.get()
        self.assertEqual((post.state, post.date, post.out_at), ("scheduled", NOW + DAY, None))
        self.assertEqual(Client().get(f"/blog/meadow/{post.slug}/").status_code, 404)
        self.assertEqual(bring_out_due(now=NOW + DAY - timedelta(seconds=1)), 0)
        self.assertEqual(bring_out_due(now=NOW + DAY), 1)
        post.refresh_from_db()
        self.assertEqual((post.state, post.out_at), ("published", NOW + DAY))

    def test_one_sent_out_early_is_dated_now(self) -> None:
        fill(self.source, [1], published=NOW + DAY)
        run(make_campaign(self.blog, release={"mode": "scheduled"}))
        post = move_post(Post.objects.get(), PostState.PUBLISHED, now=NOW)
        self.assertEqual((post.date, Post.objects.get().out_at), (NOW, NOW))

    def test_beyond_the_pace_posts_get_the_next_free_times(self) -> None:
        fill(self.source, range(4))
        pace = {"posts": 2, "per": "hour", "when_full": "schedule"}
        run(make_campaign(self.blog, release={"mode": "publish", "pace": pace}), batch=2)
        ahead = list(Post.objects.filter(state="scheduled").order_by("date").values_list("date", flat=True))
        self.assertEqual(ahead, [NOW + timedelta(minutes=60), NOW + timedelta(minutes=90)])


class Pace(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog, stories=5)

    def numbers(self) -> list[int]:
        titles = Post.objects.order_by("pk").values_list("title", flat=True)
        return [int("".join(char for char in title if char.isdigit())) for title in titles]

    def test_a_run_makes_at_most_so_many_and_the_next_one_goes_on(self) -> None:
        campaign = make_campaign(self.blog, release={"mode": "publish", "at_most": 2, "order": "newest"})
        for expected in ([0, 1], [0, 1, 2, 3], [0, 1, 2, 3, 4]):
            done = run(campaign, batch=1)
            self.assertEqual((done.state, self.numbers()), ("done", expected))
        self.assertFalse(Decision.objects.filter(verdict="waiting").exists())

    def test_what_went_out_within_the_hour_counts_for_the_next_run(self) -> None:
        campaign = make_campaign(self.blog, release={"mode": "publish", "pace": {"posts": 3, "per": "hour"}})
        run(campaign)
        run(campaign)
        self.assertEqual(Post.objects.count(), 3)
        Post.objects.update(out_at=NOW - timedelta(hours=2))
        run(campaign)
        self.assertEqual(Post.objects.count(), 5)

    def test_the_proof_shows_dates_and_limits_as_the_run_makes_them(self) -> None:
        dates = {"first": (NOW - 8 * DAY).isoformat(), "last": NOW.isoformat()}
        for kind in ("a_day", "between", "random"):
            campaign = make_campaign(
                self.blog,
                kind,
                match={"against": "campaign"},
                place={"date": kind, "dates": dates},
                release={"mode": "publish", "at_most": 4},
            )
            proof = make_proof(campaign, document_of(latest_revision(campaign)), now=NOW)
            shown = {item.item: item.decision.draft.date for item in proof.items if item.decision.draft}
            run(campaign, batch=2)
            written = dict(Post.objects.filter(campaign=campaign).values_list("item", "date"))
            self.assertEqual(written, shown)
            self.assertEqual(len(written), 4)


class Readers(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog, stories=1)
        self.client = Client()

    def page(self, path: str = "", status: int = 200) -> str:
        response = self.client.get(f"/blog/meadow/{path}")
        self.assertEqual(response.status_code, status, path)
        return response.content.decode()

    def made(self, **place: object) -> Post:
        mode = str(place.pop("mode", "publish"))
        run(make_campaign(self.blog, place=place, release={"mode": mode}))
        return Post.objects.get()

    def test_a_private_post_is_for_the_people_of_the_blog(self) -> None:
        post = self.made(mode="private")
        self.assertEqual((post.state, post.visibility), ("published", "private"))
        self.page(f"{post.slug}/", 404)
        self.assertNotIn(post.title, self.page())
        stranger, owner = make_user("sven"), make_user("mira")
        add_member(self.blog, owner, Role.OWNER)
        for user, status in ((stranger, 404), (owner, 200)):
            self.client.force_login(user)
            self.page(f"{post.slug}/", status)
        self.assertEqual(feedparser.parse(self.page("feed.xml")).entries, [])

    def test_a_pass_phrase_opens_a_post_until_it_is_changed(self) -> None:
        post = self.made(visibility="phrase", pass_phrase="dark field")
        listed = self.page()
        self.assertIn(post.title, listed)
        self.assertNotIn("told in the field", listed)
        self.assertNotIn("told in the field", self.page(f"{post.slug}/"))
        wrong = self.client.post(f"/blog/meadow/{post.slug}/", {"phrase": "light field"})
        self.assertEqual(wrong.status_code, 403)
        right = self.client.post(f"/blog/meadow/{post.slug}/", {"phrase": " dark field "})
        self.assertIn("told in the field", right.content.decode())
        self.assertIn("told in the field", self.page(f"{post.slug}/"))
        Post.objects.update(pass_phrase="another")
        self.assertNotIn("told in the field", self.page(f"{post.slug}/"))

    def test_nothing_can_be_sent_to_an_open_post(self) -> None:
        post = self.made()
        self.assertEqual(self.client.post(f"/blog/meadow/{post.slug}/", {"phrase": "x"}).status_code, 405)

    def test_a_page_stands_by_itself_and_a_pinned_post_on_top(self) -> None:
        post = self.made(kind="page")
        self.assertNotIn(post.title, self.page())
        self.assertIn(post.title, self.page(f"{post.slug}/"))
        fill(self.source, [7, 8])
        run(make_campaign(self.blog, "Rest"))
        Post.objects.filter(title__contains="8").update(pinned=True, kind="article")
        listed = self.page()
        self.assertLess(listed.index("number 8"), listed.index("number 7"))

    def test_canonical_address_and_description_are_as_the_rules_say(self) -> None:
        campaign = make_campaign(
            self.blog,
            place={"canonical": "itself"},
            shape={"description": "About {{ title }}", "address": "note {{ words }}"},
        )
        run(campaign)
        page = self.page("note-11/")
        self.assertIn('<link rel="canonical" href="http://testserver/blog/meadow/note-11/">', page)
        self.assertIn('name="description" content="About Story number 0 of the night"', page)

    def test_fields_are_shown_by_their_type(self) -> None:
        fields = [
            {"id": "a", "name": "site", "type": "link", "value": "https://x.example/"},
            {"id": "b", "name": "dark", "label": "Dark sky", "type": "yes_no", "value": "yes"},
            {"id": "c", "name": "note", "type": "text", "value": "<b>{{ title }}</b>"},
        ]
        run(make_campaign(self.blog, shape={"fields": fields}))
        page = self.page(f"{Post.objects.get().slug}/")
        self.assertIn('<a href="https://x.example/" rel="noopener nofollow">', page)
        self.assertIn("<dt>Dark sky</dt><dd>yes", page)
        self.assertIn("&lt;b&gt;Story", page)

    def test_a_lead_picture_that_the_body_shows_does_not_stand_twice(self) -> None:
        picture = '<p>Words.</p><img src="https://club.example/p.png">'
        fill(self.source, [5], body=picture, media=(), link="https://club.example/5")
        item = story(5, body=picture)
        self.assertTrue(item)
        run(make_campaign(self.blog, shape={"body": '<img src="https://club.example/p.png">{{ body }}'}))
        post = Post.objects.get(link="https://club.example/5")
        Post.objects.filter(pk=post.pk).update(lead_url="https://club.example/p.png")
        self.assertEqual(self.page(f"{post.slug}/").count('<figure class="lead">'), 0)

    def test_a_post_in_several_sections_is_found_in_each(self) -> None:
        rules = [{"id": "f", "kind": "fixed", "names": ["Sky", "Night"]}]
        post = self.made(category_rules=rules)
        self.assertEqual(post.category.name, "Sky")  # type: ignore[union-attr]
        for section in ("sky", "night"):
            self.assertIn(post.title, self.page(f"section/{section}/"))

    def test_the_database_wants_a_phrase_where_one_is_asked_for(self) -> None:
        post = self.made()
        for change in ({"visibility": "phrase"}, {"visibility": "odd"}):
            with self.assertRaises(IntegrityError), transaction.atomic():
                Post.objects.filter(pk=post.pk).update(**change)
