"""Items of a feed completed from the pages that they link to."""

from typing import Any

from django.test import TestCase
from glyptarch_core.item import Item as CoreItem
from glyptarch_server.items.actions import capture
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.pages.fetching import _robots
from glyptarch_server.runs.models import Decision
from glyptarch_server.wiring import FetchCode, FetchError

from benchmarks.made_sites import made_sites, odd_pages
from tests.server.fixtures import NOW, CannedPortal, make_blog, make_campaign, make_source, run

SITE = made_sites(kept=False)[0]
ARTICLE = SITE.articles[0]
LINK = SITE.address(ARTICLE)


class FullText(TestCase):
    def setUp(self) -> None:
        _robots.clear()
        self.blog = make_blog()
        self.source = make_source(self.blog)
        self.source.full_text_words = 50
        self.source.save()
        self.entry = CoreItem(
            source="club", identity="1", link=LINK, title=ARTICLE.title, body="<p>Two lines only.</p>"
        )

    def looked_up(self, body: bytes | FetchError) -> Item:
        capture(self.source, [self.entry], now=NOW)
        self.portal = CannedPortal({LINK: body})
        look_up_pages(self.source, fetcher=self.portal, now=NOW)  # type: ignore[arg-type]
        return Item.objects.get(identity="1")

    def page(self) -> bytes:
        return SITE.pages[ARTICLE.slug].encode()

    def test_the_text_of_the_page_takes_the_place_of_two_lines(self) -> None:
        item = self.looked_up(self.page())
        self.assertEqual(item.page, "taken")
        self.assertIn(ARTICLE.paragraphs[-1], item.text)
        self.assertGreater(item.words, 100)
        self.assertEqual((item.summary, item.summary_text), ("<p>Two lines only.</p>", "Two lines only."))
        self.assertNotIn("More from us", item.text)

    def test_a_feed_that_has_as_much_keeps_its_own(self) -> None:
        self.entry = CoreItem(source="club", identity="1", link=LINK, title="T", body=f"<p>{ARTICLE.text}</p>")
        item = self.looked_up(self.page())
        self.assertEqual((item.page, item.body), ("shorter", self.entry.body))

    def test_what_is_no_article_is_not_taken_and_is_told(self) -> None:
        for kind, pages in odd_pages().items():
            with self.subTest(kind):
                Item.objects.filter(identity="1").delete()
                item = self.looked_up(pages[0].encode())
                self.assertEqual((item.page, item.body), (kind, self.entry.body))

    def test_a_page_is_asked_once_also_where_the_feed_gives_the_entry_again(self) -> None:
        self.looked_up(self.page())
        capture(self.source, [self.entry], now=NOW)
        item = Item.objects.get(identity="1")
        self.assertEqual(item.page, "taken")
        again = CannedPortal({LINK: self.page()})
        look_up_pages(self.source, fetcher=again, now=NOW)  # type: ignore[arg-type]
        self.assertEqual(again.asked, [])

    def test_an_edited_entry_has_its_page_asked_again(self) -> None:
        self.looked_up(self.page())
        self.entry = CoreItem(source="club", identity="1", link=LINK, title="Other", body="<p>Three lines now.</p>")
        item = self.looked_up(self.page())
        self.assertEqual((item.page, item.title, item.summary), ("taken", "Other", "<p>Three lines now.</p>"))

    def test_a_page_that_cannot_be_had_leaves_the_item_as_it_is(self) -> None:
        item = self.looked_up(FetchError(FetchCode.SERVER_ERROR, "It has trouble.", status=500))
        self.assertEqual(item.body, self.entry.body)

    def test_no_page_is_asked_where_the_source_does_not_say_so(self) -> None:
        self.source.full_text_words = 0
        self.looked_up(self.page())
        self.assertEqual(self.portal.asked, [])

    def test_the_trace_says_where_the_text_came_from_and_the_post_has_it(self) -> None:
        self.looked_up(self.page())
        campaign: Any = make_campaign(self.blog, release={"mode": "publish"})
        run(campaign)
        decision = Decision.objects.get(item__identity="1")
        self.assertEqual(decision.trace[0]["data"]["page"], "taken")
        assert decision.post is not None
        self.assertIn(ARTICLE.paragraphs[-1][:40], decision.post.body)
