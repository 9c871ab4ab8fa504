"""Proofs: their items, their comparison, and their warnings."""

from datetime import timedelta
from unittest.mock import patch
from urllib.parse import urljoin

from django.test import TestCase
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import UnwantedError
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.actions import save_revision, set_blog_defaults
from glyptarch_server.campaigns.queries import defaults_of
from glyptarch_server.common.problems import Invalid, NotFound
from glyptarch_server.items.actions import keep_sample, sample_from_address
from glyptarch_server.items.models import Item, Sample
from glyptarch_server.posts.models import Post
from glyptarch_server.proofs.prove import around_step_of, make_proof, post_anyway, prove_one
from glyptarch_server.proofs.tally import Over, Proof
from glyptarch_server.proofs.trying import Tried as Trial
from glyptarch_server.proofs.trying import try_rules
from glyptarch_server.proofs.turns import wanted_by
from glyptarch_server.proofs.warming import warm
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchCode, FetchError

from tests.server.fixtures import NOW, CannedPortal, fill, make_blog, make_campaign, make_source, run
from tests.server.test_runs import FEED

RULES = {"gather": {"sources": ["club", "wire"]}, "release": {"mode": "publish"}}


class Proving(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.club, self.wire = make_source(self.blog, stories=3), make_source(self.blog, "wire")
        fill(self.wire, [20, 21], published=NOW - timedelta(days=20))
        self.campaign = make_campaign(self.blog, sources=("club", "wire"))

    def proof(self, over: Over | None = None, against: int | None = None, **parts: object) -> Proof:
        document = load_document({**RULES, **parts})
        return make_proof(self.campaign, document, now=NOW, over=over, against=against)


class Overs(Proving):
    def test_days_and_source_narrow_it(self) -> None:
        self.assertEqual(len(self.proof().items), 5)
        self.assertEqual(len(self.proof(Over(days=10)).items), 3)
        self.assertEqual(len(self.proof(Over(source="wire")).items), 2)

    def test_picked_items_are_proved_alone(self) -> None:
        picked = tuple(Item.objects.order_by("pk").values_list("pk", flat=True)[:2])
        self.assertEqual({item.item for item in self.proof(Over(items=picked)).items}, set(picked))

    def test_items_of_another_blog_are_not_given(self) -> None:
        other = make_source(make_blog("other"), stories=1)
        alien = other.items.get().pk
        self.assertEqual(self.proof(Over(items=(alien,))).items, [])

    def test_a_sample_is_proved_as_if_the_first_source_had_given_it(self) -> None:
        sample = keep_sample(self.blog, FEED, name="", now=NOW)
        over = Over(sample=sample.pk)
        proof = self.proof(over, place={"category": "Tried"})
        self.assertEqual((sample.name, sample.items, len(proof.items), proof.undecided), ("C", 2, 2, 0))
        one = prove_one(self.campaign, load_document(RULES), 2, now=NOW, over=over)
        self.assertEqual(one.decision.captured.source.key, "club")
        self.assertEqual(one.decision.draft and one.decision.draft.title, "Second story of all")
        self.assertEqual(Item.objects.count(), 5)

    def test_relative_pictures_of_a_pasted_sample_begin_at_the_source(self) -> None:
        body = b"""<rss version="2.0"><channel><title>C</title><item><guid>1</guid><title>A halo around the moon</title>
        <description>&lt;p&gt;Seen &lt;img src="/moon.jpg"&gt; from the meadow.&lt;/p&gt;</description></item></channel></rss>"""
        sample = keep_sample(self.blog, body, name="", now=NOW)
        one = prove_one(self.campaign, load_document(RULES), 1, now=NOW, over=Over(sample=sample.pk))
        item = one.decision.captured.item
        self.assertEqual(
            {medium.url for medium in item.media}, {urljoin(Source.objects.get(key="club").url, "/moon.jpg")}
        )
        self.assertNotIn('src="/moon.jpg"', item.summary + item.body)

    def test_a_sample_needs_a_source_and_belongs_to_its_blog(self) -> None:
        sample = keep_sample(self.blog, FEED, name="Mine", now=NOW)
        with self.assertRaisesRegex(Invalid, "Choose a source"):
            make_proof(
                make_campaign(self.blog, "Bare", sources=()), CampaignDocument(), now=NOW, over=Over(sample=sample.pk)
            )
        other = make_blog("other")
        make_source(other)
        with self.assertRaisesRegex(NotFound, "sample"):
            make_proof(make_campaign(other), load_document(RULES), now=NOW, over=Over(sample=sample.pk))


class Tried(Proving):
    """Rules tried before there is a campaign."""

    def tried(self, *rules: dict[str, object], blog: Blog | None = None) -> list[Trial]:
        return try_rules(blog or self.blog, [load_document({**RULES, **parts}) for parts in rules], now=NOW)

    def test_each_says_how_many_posts_it_makes_and_why_others_are_none(self) -> None:
        refused = [item.title for item in self.club.items.order_by("-dated", "-pk")[:2]]
        rule = {"id": "t", "kind": "terms", "mode": "none", "terms": [f'"{title}"' for title in refused]}
        all_of_them, fewer, held = self.tried({}, {"sift": {"rules": [rule]}}, {"release": {"mode": "hold"}})
        self.assertEqual((len(all_of_them.posts), all_of_them.held, all_of_them.reasons), (5, 0, []))
        self.assertEqual((len(fewer.posts), [number for _, number in fewer.reasons]), (3, [2]))
        self.assertEqual(fewer.reasons[0][0].captured.item.title, refused[0])
        self.assertEqual((len(held.posts), held.held), (5, 5))

    def test_nothing_is_written_and_posts_of_the_blog_are_counted_apart(self) -> None:
        rules = {"match": {"rules": [{"id": "a", "kind": "identity"}]}}
        before = self.tried(rules)[0]
        self.assertEqual((len(before.posts), before.on_blog), (5, 0))
        self.assertEqual((Post.objects.count(), Decision.objects.count()), (0, 0))
        run(self.campaign, CannedPortal({}))
        again = self.tried(rules)[0]
        self.assertEqual((Post.objects.count(), len(again.posts), again.on_blog), (5, 5, 5))

    def test_only_the_newest_are_tried_and_only_those_of_the_blog(self) -> None:
        with patch("glyptarch_server.proofs.trying.MOST_ITEMS", 2):
            tried = self.tried({})[0]
        newest = self.club.items.order_by("-dated", "-pk")[:2]
        self.assertEqual([one.captured.item.title for one in tried.decisions], [item.title for item in newest])
        self.assertEqual(self.tried({}, blog=make_blog("other"))[0].decisions, [])


class Turns(Proving):
    def test_a_newer_question_of_the_same_bench_ends_the_work_on_the_older_one(self) -> None:
        first = wanted_by("bench", 1)
        other, nobody = wanted_by("another bench", 1), wanted_by("", 1)
        self.assertTrue(first())
        second = wanted_by("bench", 2)
        self.assertEqual([ask() for ask in (first, second, other, nobody)], [False, True, True, True])

    def test_the_older_question_does_not_end_the_newer_one_when_it_is_begun_last(self) -> None:
        newer, older = wanted_by("late bench", 8), wanted_by("late bench", 7)
        self.assertEqual((newer(), older()), (True, False))

    def test_an_unwanted_proof_is_not_kept(self) -> None:
        document = load_document({**RULES, "place": {"category": "Once"}})
        with self.assertRaises(UnwantedError):
            make_proof(self.campaign, document, now=NOW, is_wanted=lambda: False)
        self.assertEqual(len(make_proof(self.campaign, document, now=NOW).items), 5)


class PostsAnyway(Proving):
    def test_a_stopped_item_shows_the_post_that_it_would_have_become(self) -> None:
        document = load_document(
            {**RULES, "sift": {"rules": [{"id": "t", "kind": "terms", "mode": "none", "terms": ["story"]}]}}
        )
        proved = make_proof(self.campaign, document, now=NOW).items[0]
        self.assertEqual(proved.decision.left_at, "sift")
        draft = post_anyway(self.campaign, document, proved, now=NOW)
        self.assertEqual(draft and draft.title, proved.decision.captured.item.title)


class Differing(Proving):
    def test_a_row_whose_category_alone_has_changed_is_given_again(self) -> None:
        one, other = (self.proof(place={"category": name}) for name in ("Sky", "Club"))
        self.assertEqual(len(other.rows_after(one) or ()), 5)
        self.assertEqual(len(other.rows_after(other) or ()), 0)


class AroundAStep(Proving):
    def test_an_item_is_given_before_and_after_the_step(self) -> None:
        item = Item.objects.order_by("pk")[0]
        item.body = "<aside>Menu</aside><p>Sponsored. Read on.</p><p onclick='x()'>The star is up.</p>"
        item.save()
        steps = [
            {"id": "off", "kind": "shorten", "on": False, "count": 1},
            {"id": "menu", "kind": "select", "selector": "aside"},
            {"id": "adverts", "kind": "drop_paragraphs", "terms": ["sponsored"]},
        ]
        document = load_document({**RULES, "shape": {"steps": steps}})
        proved = prove_one(self.campaign, document, item.pk, now=NOW)
        before, after = around_step_of(self.blog, document, proved, "adverts")
        self.assertEqual(before.text, "Sponsored. Read on.\nThe star is up.")
        self.assertEqual(before.html, "<p>Sponsored. Read on.</p><p>The star is up.</p>")
        self.assertEqual((after.text, after.html), ("The star is up.", "<p>The star is up.</p>"))
        for unknown in ("off", "nothing"):
            with self.assertRaises(NotFound):
                around_step_of(self.blog, document, proved, unknown)


class Samples(Proving):
    def test_what_is_no_feed_is_refused_with_its_reason(self) -> None:
        for body in (b"", b"<html><p>no</p></html>", b'<rss version="2.0"><channel><title>x</title></channel></rss>'):
            with self.assertRaisesRegex(Invalid, "feed"):
                keep_sample(self.blog, body, name="", now=NOW)
        self.assertFalse(Sample.objects.exists())

    def test_only_the_newest_are_kept(self) -> None:
        for number in range(23):
            keep_sample(self.blog, FEED, name=str(number), now=NOW + timedelta(minutes=number))
        self.assertEqual(Sample.objects.count(), 20)
        self.assertFalse(Sample.objects.filter(name__in=["0", "1", "2"]).exists())

    def test_an_address_is_fetched_once_or_its_error_is_said(self) -> None:
        portal = CannedPortal(
            {"https://a.example/f": FEED, "https://b.example/f": FetchError(FetchCode.TOO_SLOW, "slow")}
        )
        made = sample_from_address(self.blog, "https://a.example/f", fetcher=portal, now=NOW)  # type: ignore[arg-type]
        self.assertEqual((made.url, made.items), ("https://a.example/f", 2))
        with self.assertRaisesRegex(Invalid, "b.example/f cannot be read"):
            sample_from_address(self.blog, "https://b.example/f", fetcher=portal, now=NOW)  # type: ignore[arg-type]


class Compared(Proving):
    def test_any_revision_can_be_compared_with(self) -> None:
        stricter = {**RULES, "sift": {"rules": [{"id": "n", "kind": "number", "at_least": 999}]}}
        save_revision(self.campaign, load_document(stricter), base=1, by=None, note="", now=NOW)
        latest = make_proof(self.campaign, load_document(stricter), now=NOW)
        self.assertEqual((latest.revision, sum(item.changed for item in latest.items)), (2, 0))
        first = make_proof(self.campaign, load_document(stricter), now=NOW, against=1)
        self.assertEqual((first.revision, sum(item.changed for item in first.items)), (1, 5))
        with self.assertRaises(NotFound):
            make_proof(self.campaign, load_document(stricter), now=NOW, against=9)

    def test_moved_and_reworded_are_told_apart(self) -> None:
        moved = self.proof(place={"category": "Elsewhere"}).items[0]
        self.assertEqual((moved.moved, moved.reworded), (True, False))
        reworded = self.proof(shape={"title": "New: {{ title }}"}).items[0]
        self.assertEqual((reworded.moved, reworded.reworded), (False, True))


class Holes(Proving):
    def test_a_variable_that_a_source_never_fills_is_named_with_the_source(self) -> None:
        fill(self.club, [9], authors=("Ada",))
        found = self.proof(shape={"title": "{{ author }} {{ titel }}"}).holes
        self.assertEqual(
            [(hole.source, hole.variable, hole.parts) for hole in found],
            [("", "titel", ("title",)), ("Wire", "author", ("title",))],
        )


class Defaults(Proving):
    def test_a_house_keeps_rules_without_sources_and_can_give_them_up(self) -> None:
        self.assertEqual(defaults_of(self.blog), CampaignDocument())
        set_blog_defaults(self.blog, load_document({**RULES, "place": {"byline": "Desk"}}))
        kept = defaults_of(self.blog)
        self.assertEqual((kept.gather.sources, kept.place.byline), ((), "Desk"))
        set_blog_defaults(self.blog, None)
        self.assertEqual(defaults_of(self.blog), CampaignDocument())

    def test_rules_that_name_what_is_not_there_are_no_defaults(self) -> None:
        step = {"id": "t", "kind": "table", "tables": ["none"]}
        with self.assertRaisesRegex(Invalid, "tables of terms"):
            set_blog_defaults(self.blog, load_document({"shape": {"steps": [step]}}))


class Warming(Proving):
    def test_the_proofs_of_the_campaigns_run_last_are_made_before_anybody_asks(self) -> None:
        self.assertEqual(warm(), 0)
        run(self.campaign)
        self.assertEqual(warm(), 1)
