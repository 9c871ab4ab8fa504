"""Items of a feed completed from the pages that they link to."""

import json
from dataclasses import replace
from typing import Any

from django.test import TestCase
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.pages.completing import text_at
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_server.items.capturing import capture
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import look_up_pages
from glyptarch_server.pages.actions import make_reader
from glyptarch_server.pages.fetching import _robots
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import FullText, Source
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchCode, FetchError

from benchmarks.made_sites import made_sites, odd_pages
from tests.server.fixtures import NOW, CannedPortal, carry_kind, make_blog, make_campaign, make_source, run
from tests.server.test_api import ApiCase

SITE = made_sites(kept=False)[0]
ARTICLE = SITE.articles[0]
LINK = SITE.address(ARTICLE)


class TextsOfPages(TestCase):
    def setUp(self) -> None:
        _robots.clear()
        self.blog = make_blog()
        self.source = make_source(self.blog)
        self.texts = FullText.objects.create(source=self.source, words=50)
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
        self.texts.words = 0
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

    def test_the_text_is_taken_from_where_a_selector_finds_it(self) -> None:
        self.texts.selector = "section.other"
        body = f"<html><body><article>{'Seen first. ' * 80}</article><section class=other><p>{ARTICLE.text}</p></section></body></html>"
        item = self.looked_up(body.encode())
        self.assertEqual((item.page, "Seen first" in item.text, ARTICLE.text[:40] in item.text), ("taken", False, True))

    def test_a_selector_that_finds_nothing_is_told(self) -> None:
        self.texts.selector = "section.gone"
        item = self.looked_up(self.page())
        self.assertEqual((item.page, item.body), ("not_found", self.entry.body))

    def test_the_text_is_read_by_a_page_reader(self) -> None:
        document = ReaderDocument(url=LINK, article=text_at("section.other"))
        self.texts.reader = make_reader(self.blog, "Other", document, now=NOW)
        item = self.looked_up(
            f"<html><body><section class=other><p>{ARTICLE.text}</p></section></body></html>".encode()
        )
        self.assertEqual((item.page, ARTICLE.text[:40] in item.text), ("taken", True))

    def test_the_player_that_a_page_offers_is_kept_with_its_item(self) -> None:
        there = "https://films.example/oembed?url=7"
        page = self.page().replace(
            b"<head>", f'<head><link rel="alternate" type="application/json+oembed" href="{there}">'.encode(), 1
        )
        frame = '<iframe src="https://films.example/player/7"></iframe>'
        answer = json.dumps({"type": "video", "html": frame, "width": 4, "height": 3}).encode()
        capture(self.source, [self.entry], now=NOW)
        portal = CannedPortal({LINK: page, there: answer})
        look_up_pages(self.source, fetcher=portal, now=NOW)  # type: ignore[arg-type]
        facts = Item.objects.get(identity="1").facts
        self.assertEqual((facts["player"], facts["ratio"]), ("https://films.example/player/7", "1.3333"))

    def test_the_transcript_of_an_episode_stands_below_its_own_text(self) -> None:
        there = "https://club.example/7.vtt"
        self.entry = replace(self.entry, facts={"transcript": there}, link="https://club.example/7")
        capture(self.source, [self.entry], now=NOW)
        said = b"WEBVTT\n\n00:00.000 --> 00:02.000\nThe comet is low.\n"
        portal = CannedPortal({there: said})
        look_up_pages(self.source, fetcher=portal, now=NOW)  # type: ignore[arg-type]
        item = Item.objects.get(identity="1")
        self.assertEqual((item.page, item.body), ("taken", "<p>Two lines only.</p><p>The comet is low.</p>"))
        self.assertNotIn("https://club.example/7", [request.url for request in portal.asked])

    def test_the_chapters_of_an_episode_are_asked_for_with_its_text(self) -> None:
        words, chapters = "https://club.example/7.vtt", "https://club.example/7.json"
        facts = {"transcript": words, "chapters": chapters}
        self.entry = replace(self.entry, facts=facts, link="https://club.example/7")
        capture(self.source, [self.entry], now=NOW)
        listed = json.dumps({"chapters": [{"startTime": 65, "title": "The comet"}]}).encode()
        portal = CannedPortal({chapters: listed})
        look_up_pages(self.source, fetcher=portal, now=NOW)  # type: ignore[arg-type]
        self.assertEqual(Item.objects.get(identity="1").facts["chapter_list"], "1:05 The comet")


class AskingPages(ApiCase):
    """Items that were captured before their source took texts from pages."""

    def setUp(self) -> None:
        super().setUp()
        _robots.clear()
        self.source = Source.objects.get(key="club")
        self.links = [f"https://club.example/late/{number}" for number in range(45)]
        captured = [
            CoreItem(source="club", identity=link, link=link, title=f"Note {number}", body="<p>Two lines.</p>")
            for number, link in enumerate(self.links)
        ]
        capture(self.source, captured, now=NOW)
        body = SITE.pages[ARTICLE.slug].encode()
        self.portal = CannedPortal(dict.fromkeys(self.links[1:], body))

    def texts(self, method: str = "GET", status: int = 200, **body: Any) -> Any:  # noqa: ANN401
        given = body if method == "POST" else None
        answer = self.call(self.editor, method, "/blogs/meadow/sources/club/texts", given)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def turn_on(self, **choices: Any) -> Any:  # noqa: ANN401
        body = {"title": "Club", "right": "full", "right_words": 100, "full_text_words": 50, **choices}
        return self.call(self.editor, "PATCH", "/blogs/meadow/sources/club", body)

    def work(self) -> None:
        carry_kind("texts", self.portal)

    def test_it_says_how_many_would_be_fetched_and_fetches_them_on_demand(self) -> None:
        before = Item.objects.filter(source=self.source, link__startswith="http").count()
        self.texts("POST", status=409)
        self.assertEqual(self.turn_on().status_code, 200)
        found = self.texts()
        self.assertEqual((found["waiting"], found["outcomes"], found["under_way"]), (before, {}, False))
        self.assertEqual(len(found["titles"]), 5)
        self.assertTrue(self.texts("POST")["under_way"])
        self.texts("POST")
        self.assertEqual(Task.objects.filter(kind="texts").count(), 1)
        self.work()
        done = self.texts()
        self.assertEqual((done["waiting"], done["outcomes"]["taken"], done["under_way"]), (0, 44, False))
        self.assertEqual(Item.objects.filter(page="taken").count(), 44)

    def test_pages_that_gave_nothing_are_asked_again_and_those_that_did_are_not(self) -> None:
        self.turn_on(text_selector="section.gone")
        self.texts("POST")
        self.work()
        self.assertEqual(self.texts()["outcomes"]["not_found"], 44)
        self.turn_on()
        self.texts("POST", again=True)
        self.work()
        self.assertEqual(self.texts()["outcomes"]["taken"], 44)
        asked = len(self.portal.asked)
        self.texts("POST", again=True)
        self.work()
        self.assertFalse({one.url for one in self.portal.asked[asked:]} & set(self.links[1:]))

    def test_a_selector_or_a_host_that_cannot_be_read_is_refused_with_its_place(self) -> None:
        for choice, name in (
            ({"text_selector": "p["}, "text_selector"),
            ({"rendered_hosts": ["https://x/"]}, "rendered_hosts"),
        ):
            answer = self.turn_on(**choice)
            self.assertEqual((answer.status_code, answer.json()["faults"][0]["path"]), (422, name))
        self.assertEqual(self.turn_on(text_reader="none").status_code, 404)

    def test_a_reader_that_completes_a_source_is_not_removed(self) -> None:
        reader = make_reader(self.source.blog, "Other", ReaderDocument(url=LINK, article=text_at("p")), now=NOW)
        self.turn_on(text_reader=reader.key)
        self.assertEqual(self.call(self.editor, "DELETE", f"/blogs/meadow/readers/{reader.key}").status_code, 409)
        listed = self.call(self.editor, "GET", f"/blogs/meadow/readers/{reader.key}").json()
        self.assertEqual(listed["sources"], ["club"])
