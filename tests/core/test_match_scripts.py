"""Only the same story matches.

Other numbers and names distinguish stories in any script.
"""

from datetime import timedelta

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.match.products import product_number
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import about_words, title_key

WEEKLY = {
    "English": "The club meets this week at the old mill above the river, as it does every week of the year. The evening is led by "
    "{name} from the society, who brings a telescope and maps for everybody. We begin at {hour} sharp, come in warm clothes.",
    "Russian": "На этой неделе клуб собирается у старой мельницы над рекой, как и каждую неделю этого года. Вечер ведёт {name} "
    "из общества, и с собой будет телескоп и карты для всех. Мы начинаем ровно в {hour}, приходите в тёплой одежде.",
    "Greek": "Αυτή την εβδομάδα η λέσχη συναντιέται στον παλιό μύλο πάνω από το ποτάμι, όπως κάθε εβδομάδα του χρόνου. Τη βραδιά "
    "διευθύνει ο {name} από την εταιρεία, που φέρνει τηλεσκόπιο και χάρτες για όλους. Αρχίζουμε ακριβώς στις {hour}.",
    "Chinese": "本周俱乐部像往年一样每个星期都在河边的老磨坊聚会，晚上的活动由学会的老师带领，他会给大家带来望远镜和星图，"
    "我们在{hour}点准时开始，请大家穿暖和的衣服来参加，谢谢大家的支持和关心。",
}  # fmt: skip
NAMES = {
    "English": ("Ida Farrow", "Tobin Quill"),
    "Russian": ("Ольга Ветрова", "Семён Луговой"),
    "Greek": ("Νίκος Λόφος", "Άννα Πηγή"),
    "Chinese": ("", ""),
}
ONLY_HOUR = {"Chinese": "hold"}
HOURS = {"Chinese": ("八", "九")}
OFFER = (
    "The field telescope of twenty centimetres comes with two eyepieces, a finder and a bag, and is sent within three days of the "
    "order. It stands on a table or a wall and shows the rings of the planets. Price today: {price} € with delivery."
)


def verdicts(*bodies: str, **match: object) -> list[str]:
    rules = {
        "gather": {"sources": ["club"]},
        "match": {"rules": [{"id": "near", "kind": "near_text"}, {"id": "title", "kind": "title"}], **match},
        "release": {"mode": "publish"},
    }
    items = [
        captured(
            f"n{place}", title=f"Number {place}", body=f"<p>{body}</p>", published=NOON - timedelta(days=place * 20)
        )
        for place, body in enumerate(bodies)
    ]
    return [one.verdict.value for one in decide(items, load_document(rules), memory=FakeMemory(), now=NOON)]


class Notices(SimpleTestCase):
    def test_with_other_names_and_hours_are_other_stories(self) -> None:
        for language, text in WEEKLY.items():
            first, second = (
                text.format(name=name, hour=hour)
                for name, hour in zip(NAMES[language], HOURS.get(language, ("19:30", "20:15")), strict=True)
            )
            with self.subTest(language):
                # Where the hour is the only fact, a person decides.
                self.assertEqual(verdicts(first, second), [ONLY_HOUR.get(language, "publish"), "publish"])
                self.assertEqual(sorted(verdicts(first, first)), ["duplicate", "publish"])

    def test_two_offers_that_only_differ_in_their_price_are_for_a_person_to_decide(self) -> None:
        self.assertEqual(verdicts(OFFER.format(price=199), OFFER.format(price=299)), ["hold", "publish"])

    def test_lie_within_so_many_days_of_each_other_in_one_pass_as_well(self) -> None:
        text = WEEKLY["English"].format(name="Ida Farrow", hour="19:30")
        self.assertEqual(sorted(verdicts(text, text, within_days=30)), ["duplicate", "publish"])
        self.assertEqual(verdicts(text, text, within_days=10), ["publish", "publish"])
        # The date of the post counts, and the third is forty days from it.
        self.assertEqual(sorted(verdicts(text, text, text, within_days=25)), ["duplicate", "publish", "publish"])


class Products(SimpleTestCase):
    def test_what_shops_write_where_they_have_no_number_names_no_product(self) -> None:
        for text in ("n/a", "N/A", "-", "none", "0", "000", "null", "TBD", " "):
            with self.subTest(text):
                self.assertEqual(product_number({"sku": text}, "https://shop.example/1"), "")
        for digits in ("0000000000000", "00000000", "9999999999999"):
            self.assertEqual(product_number({"gtin": digits}, "https://shop.example/1"), "")
        self.assertEqual(
            product_number({"sku": "n/a", "mpn": "DM-100"}, "https://shop.example/1"), "shop.example dm-100"
        )


class StandingTitles(SimpleTestCase):
    def test_are_no_story_in_a_script_without_spaces_either(self) -> None:
        for title, words in (
            ("Weekly notice", 2),
            ("每周通告", 2),
            ("今週のお知らせ", 3),
            ("ประกาศ", 1),
            ("The comet over the old mill", 6),
            ("彗星出现在老磨坊上空", 6),
        ):
            with self.subTest(title):
                self.assertEqual(about_words(title_key(title).split()), words)
        for title, found in (("每周通告", "publish"), ("彗星出现在老磨坊上空", "duplicate")):
            items = [
                captured(f"n{place}", title=title, body=f"<p>{body}</p>")
                for place, body in enumerate(("第一篇文章讲的是月亮。", "另一篇文章讲的是望远镜。"))
            ]
            rules = load_document({"gather": {"sources": ["club"]}, "match": {"rules": [{"id": "t", "kind": "title"}]}})
            decisions = decide(items, rules, memory=FakeMemory(), now=NOON)
            self.assertEqual(any(one.verdict.value == "duplicate" for one in decisions), found == "duplicate", title)
