"""Each parameter that a platform source sends is honoured by its stand-in."""

from collections.abc import Sequence
from datetime import date
from typing import Any

import httpx
from django.test import SimpleTestCase
from glyptarch_core.item import Item
from glyptarch_core.platforms import platforms
from glyptarch_core.platforms.model import Answer
from glyptarch_standins.app import World, make_app
from glyptarch_standins.platforms import PLATFORM_KEYS

from tests.served import served
from tests.server.fixtures import NOW

ARCHIVE = {"span": "archive", "begin": "2026-10-01", "end": "2026-11-24"}


class Asked(SimpleTestCase):
    """Platforms asked as a source asks them, page by page."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        server = served(make_app(World(fixed=NOW)))
        cls.host = server.__enter__()
        cls.addClassCleanup(server.__exit__, None, None, None)

    def items(self, key: str, words: str = "", **parameters: Any) -> list[Item]:  # noqa: ANN401
        platform = platforms()[key]
        chosen = platform.parameters.model_validate(parameters)
        name = platform.header or "Authorization"
        secret = PLATFORM_KEYS[key] if platform.header else f"Bearer {PLATFORM_KEYS[key]}"
        items: list[Item] = []
        cursor, pages = "", 0
        while pages == 0 or (cursor and pages < 20):
            ask = platform.ask(chosen, words, cursor)
            path = f"http://{self.host}/api/{key}{ask.path}"
            answer = httpx.get(path, params=dict(ask.query), headers={name: secret})
            self.assertEqual(answer.status_code, 200, answer.text)
            page = platform.read(
                Answer(body=answer.content, url=path, content_type="application/json"),
                chosen,
                source="s",
                cursor=cursor,
            )
            items += page.items
            cursor, pages = page.next, pages + 1
        return items

    def facts(self, items: Sequence[Item], name: str) -> list[Any]:
        return [item.facts.get(name) for item in items]


class Wire(Asked):
    def test_each_narrows_what_comes(self) -> None:
        everything = self.items("wire", **ARCHIVE)
        self.assertEqual(set(self.facts(everything, "country")), {"or", "ov"})
        some = self.items("wire", **ARCHIVE, country="ov")
        self.assertEqual((set(self.facts(some, "country")), 0 < len(some) < len(everything)), ({"ov"}, True))
        self.assertEqual(len(self.items("wire", **ARCHIVE, language="en")), len(everything))
        self.assertEqual(self.items("wire", **ARCHIVE, language="de"), [])
        outlet = self.items("wire", **ARCHIVE, outlet="meadowlark")
        self.assertEqual(len(set(self.facts(outlet, "outlet"))), 1)
        topic = everything[0].categories[0]
        chosen = self.items("wire", **ARCHIVE, topic=topic)
        self.assertTrue(all(topic in item.categories for item in chosen))
        self.assertLess(len(chosen), len(everything))
        late = self.items("wire", span="archive", begin="2026-11-20", end="2026-11-24")
        self.assertTrue(all(item.published and item.published.date() >= date(2026, 11, 20) for item in late))
        self.assertLess(len(late), len(everything))


class Films(Asked):
    def test_each_narrows_what_comes(self) -> None:
        everything = self.items("films")
        free = self.items("films", licence="cc-by")
        self.assertEqual((set(self.facts(free, "licence")), len(free) < len(everything)), ({"cc-by"}, True))
        tag = everything[0].categories[0]
        listed = self.items("films", playlist=tag)
        self.assertTrue(listed)
        self.assertTrue(all(tag in film.categories for film in listed))
        self.assertEqual(self.items("films", playlist="no such list"), [])
        self.assertEqual(self.items("films", channel="nobody"), [])
        self.assertEqual(self.items("films", language="de"), [])
        self.assertEqual(len(self.items("films", language="en")), len(everything))
        seen = self.items("films", least_views=5000)
        self.assertTrue(seen)
        self.assertTrue(all(views >= 5000 for views in self.facts(seen, "views")))
        since = self.items("films", since="2026-11-20")
        self.assertTrue(all(film.published and film.published.date() > date(2026, 11, 20) for film in since))
        self.assertTrue(any("<p>" in film.body and film.body != film.summary for film in everything))
        self.assertTrue(all(film.body == film.summary for film in self.items("films", captions=False)))

    def test_lengths_part_all_films(self) -> None:
        parts = {name: self.facts(self.items("films", length=name), "length") for name in ("short", "medium", "long")}
        self.assertTrue(all(parts.values()), {name: len(lengths) for name, lengths in parts.items()})
        self.assertLess(max(parts["short"]), 240)
        self.assertTrue(240 <= min(parts["medium"]) <= max(parts["medium"]) < 1200)
        self.assertGreaterEqual(min(parts["long"]), 1200)
        self.assertEqual(sum(map(len, parts.values())), len(self.items("films")))

    def test_the_order_is_that_which_was_asked_for(self) -> None:
        newest = [film.published for film in self.items("films", order="newest")]
        self.assertEqual(newest, sorted(newest, key=str, reverse=True))
        views = self.facts(self.items("films", order="most_seen"), "views")
        self.assertEqual(views, sorted(views, reverse=True))
        found = self.items("films", "comet", order="relevant")
        times = [f"{film.title} {film.body}".lower().count("comet") for film in found]
        self.assertGreaterEqual(times[0], times[-1])
        self.assertNotEqual([film.identity for film in found], [film.identity for film in self.items("films", "comet")])


class Shop(Asked):
    def test_each_narrows_what_comes(self) -> None:
        everything = self.items("shop")
        category = next(goods.categories[0] for goods in everything if goods.categories)
        some = self.items("shop", category=category)
        self.assertTrue(0 < len(some) < len(everything))
        self.assertTrue(all(goods.categories == (category,) for goods in some))
        number = self.facts(everything, "sku")[3]
        self.assertEqual(self.facts(self.items("shop", numbers=[number]), "sku"), [number])

    def test_a_region_has_its_prices(self) -> None:
        at_home, away = self.items("shop"), self.items("shop", region="gb")
        self.assertEqual((set(self.facts(at_home, "currency")), set(self.facts(away, "currency"))), ({"EUR"}, {"GBP"}))
        for one, other in zip(self.facts(at_home, "price"), self.facts(away, "price"), strict=True):
            self.assertAlmostEqual(other, one * 0.86, delta=0.011)
        self.assertEqual(self.items("shop", region="aq"), [])

    def test_the_order_is_that_which_was_asked_for(self) -> None:
        prices = self.facts(self.items("shop", order="cheapest"), "price")
        self.assertEqual(prices, sorted(prices))
        stars = self.facts(self.items("shop", order="best_rated"), "rating")
        self.assertEqual(stars, sorted(stars, reverse=True))
        newest = [str(goods.published) for goods in self.items("shop", order="newest")]
        self.assertEqual(newest, sorted(newest, reverse=True))
        word = self.items("shop")[0].title.split()[-1].lower()
        found = [goods.identity for goods in self.items("shop", word, order="relevant")]
        self.assertEqual(set(found), {goods.identity for goods in self.items("shop", word)})


class Boards(Asked):
    def test_questions_come_in_the_order_asked_for_answered_or_not(self) -> None:
        votes = [int(vote) for vote in self.facts(self.items("questions", order="most_votes"), "votes")]
        self.assertEqual(votes, sorted(votes, reverse=True))
        answered, all_of_them = self.items("questions"), self.items("questions", answered=False)
        self.assertNotIn("0", self.facts(answered, "answers"))
        self.assertIn("0", self.facts(all_of_them, "answers"))
        fewer = self.items("questions", answers=1)
        self.assertTrue(all(question.body.count("<h2>") == 1 for question in fewer))

    def test_articles_of_a_category_are_those_alone(self) -> None:
        everything = self.items("articles")
        category = everything[0].categories[0]
        some = self.items("articles", category=category)
        self.assertTrue(0 < len(some) < len(everything))
        self.assertEqual({article.categories for article in some}, {(category,)})
        self.assertTrue(all("writes from the ridge" in article.body for article in everything))
        self.assertFalse(any("writes from the ridge" in a.body for a in self.items("articles", author_box=False)))
        self.assertLess(len(self.items("articles", least_words=90)), len(everything))
