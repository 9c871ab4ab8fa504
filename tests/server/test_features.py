"""Stored features have a version.

Those of an earlier one are unused and recomputed.
"""

from django.test import TestCase
from glyptarch_core.item import FEATURES_VERSION
from glyptarch_server.items.actions import refresh_features
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.models import NearKeys, Post, PostKey
from glyptarch_server.posts.tasks import refresh_features as job
from glyptarch_server.runs.models import Decision

from tests.server.fixtures import fill, make_blog, make_campaign, make_source, run


class Features(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog, stories=4)
        self.campaign = make_campaign(self.blog)
        run(self.campaign)
        self.keys = set(PostKey.objects.values_list("post", "item", "kind", "value_hash"))
        self.near = list(NearKeys.objects.order_by("item").values_list("item", "text_keys", "title_keys"))
        Item.objects.update(
            features_version=1, text="stale", folded="stale", title_key="stale", link_key="stale", words=1
        )
        PostKey.objects.filter(kind__in=["link", "title"]).update(value_hash="stale")
        NearKeys.objects.update(text_keys=[1], title_keys=[2])

    def test_new_items_have_the_present_version(self) -> None:
        fill(self.source, [9])
        self.assertEqual(Item.objects.get(identity="n9").features_version, FEATURES_VERSION)

    def test_stale_ones_are_read_by_nobody(self) -> None:
        for captured in as_captured(Item.objects.select_related("source")):
            self.assertTrue(captured.features.title_key.startswith("story number"))
            self.assertIn("told in the field", captured.features.text.text)

    def test_the_job_brings_items_and_the_keys_of_their_posts_up_to_date(self) -> None:
        job(0)
        self.assertFalse(Item.objects.exclude(features_version=FEATURES_VERSION).exists())
        self.assertFalse(Item.objects.filter(text="stale").exists())
        self.assertEqual(set(PostKey.objects.values_list("post", "item", "kind", "value_hash")), self.keys)
        self.assertEqual(
            list(NearKeys.objects.order_by("item").values_list("item", "text_keys", "title_keys")), self.near
        )

    def test_afterwards_the_same_story_is_found_again(self) -> None:
        job(0)
        fill(self.source, [20], title="Story number 2 of the night", link="https://elsewhere.example/2")
        run(self.campaign)
        self.assertEqual(Post.objects.count(), 4)
        self.assertEqual(Decision.objects.filter(verdict="duplicate").count(), 1)

    def test_it_goes_in_parts(self) -> None:
        self.assertEqual([len(refresh_features(most=3)) for _ in range(3)], [3, 1, 0])


class Language(TestCase):
    """A text without a stated language has the one that its letters show."""

    GERMAN = "<p>Alle Menschen sind frei und gleich an Würde und Rechten geboren.</p>"

    def setUp(self) -> None:
        self.source = make_source(make_blog())
        for number, language, body in ((1, "", self.GERMAN), (2, "", "<p>Told in the field, with care.</p>" * 3), (3, "en", self.GERMAN)):  # fmt: skip
            fill(self.source, [number], language=language, body=body)

    def found(self) -> list[str]:
        return list(Item.objects.order_by("identity").values_list("found_language", flat=True))

    def test_it_is_kept_with_the_item_and_made_anew_by_the_job(self) -> None:
        self.assertEqual(self.found(), ["de", "en", ""])
        Item.objects.update(features_version=1, found_language="")
        refresh_features(most=10)
        self.assertEqual(self.found(), ["de", "en", ""])

    def test_rules_and_posts_follow_it(self) -> None:
        rule = {"id": "l", "kind": "values", "field": "language", "values": ["de"]}
        run(make_campaign(self.source.blog, sift={"rules": [rule]}))
        self.assertEqual(list(Post.objects.values_list("language", flat=True)), ["de"])
