"""Texts about one event in other words are found, and others are not.

The pairs are in languages that the bound was not chosen with.
"""

from itertools import permutations
from random import Random
from string import ascii_lowercase

from django.test import SimpleTestCase
from glyptarch_core.match import same_events, similar_texts

_EVENTS = {
    "fr": (
        "Le vieux moulin de Valbourg a perdu son toit dans la tempête de mardi. La commune, propriétaire depuis 1998, avait refusé 40 000 euros de travaux. Jeanne Morel, adjointe au maire, promet une bâche avant la fin de la semaine.",
        "À Valbourg, une bâche protégera bientôt le moulin que la tempête a découvert mardi : c’est la promesse de l’adjointe Jeanne Morel. Les 40 000 euros de réparations n’avaient jamais été votés par la commune, qui l’avait acheté en 1998.",
        "La chorale de Valbourg chante samedi à l’église. L’entrée est libre, et les chanteurs du village voisin viennent aussi.",
        "Un nouveau pont relie les deux rives depuis lundi. Sa construction a duré trois ans et coûté 12 millions d’euros.",
    ),
    "pl": (
        "W Starej Hucie zamknięto w środę kładkę nad Wilgą, bo pękły dwie belki. Inżynier Anna Zarzycka szacuje naprawę na 65 tysięcy złotych. Z przejścia korzystało codziennie 300 uczniów.",
        "Trzystu uczniów ze Starej Huty musi chodzić do szkoły dookoła: przejście nad rzeką Wilgą jest od środy nieczynne. Dwie belki pękły, a inżynier Zarzycka mówi o 65 tysiącach złotych na remont.",
        "Biblioteka w Starej Hucie zaprasza w sobotę na wieczór bajek dla najmłodszych. Wstęp jest wolny.",
        "Nowy autobus będzie kursował do późnego wieczora. Bilety można kupić u kierowcy albo w kiosku.",
    ),
    "zh": (
        "周三，老桥镇的木桥因为两根横梁断裂而关闭。工程师林安估计维修需要六十五万元。每天有三百名学生走过这座桥去上学。",
        "老桥镇三百名学生上学要绕路了：横梁断裂之后，木桥从周三起禁止通行。林安工程师说，维修费用大约是六十五万元。",
        "镇图书馆周六晚上为孩子们讲故事，免费入场，欢迎家长一起来。",
        "新的公共汽车从下个月开始运行到深夜，车票可以在车上购买。",
    ),
    "th": (
        "สะพานไม้ข้ามแม่น้ำในเมืองบ้านเก่าปิดเมื่อวันพุธ เพราะคานสองท่อนหัก วิศวกรสมชายประเมินค่าซ่อมไว้ 650000 บาท นักเรียน 300 คนใช้สะพานนี้ทุกวัน",
        "นักเรียน 300 คนของเมืองบ้านเก่าต้องเดินอ้อมไปโรงเรียน หลังคานหักและสะพานไม้ถูกปิดตั้งแต่วันพุธ วิศวกรสมชายบอกว่าต้องใช้เงิน 650000 บาท",
        "ห้องสมุดจัดงานเล่านิทานสำหรับเด็กในคืนวันเสาร์ เข้าชมฟรี",
        "รถเมล์สายใหม่จะวิ่งถึงกลางคืนตั้งแต่เดือนหน้า ซื้อตั๋วได้จากคนขับ",
    ),
}


def _word(number: int) -> str:
    """Return a word of five letters for each number."""
    return "".join(ascii_lowercase[number // 26**place % 26] for place in range(5))


class SameEvents(SimpleTestCase):
    def test_the_other_telling_is_found_in_each_language_and_nothing_else(self) -> None:
        for language, texts in _EVENTS.items():
            for mine, *others in permutations(range(4)):
                found = same_events(texts[mine], [texts[place] for place in others])
                with self.subTest(language, mine=mine, others=others):
                    wanted = {0: [1], 1: [0]}.get(mine, [])
                    self.assertEqual([others[event.number] for event in found], wanted)

    def test_the_rarest_words_of_both_are_named_as_they_are_written(self) -> None:
        first, second, *others = _EVENTS["fr"]
        (event,) = same_events(first, [second], others)
        self.assertIn("Morel", event.words)
        self.assertTrue({"commune", "Valbourg"}.isdisjoint(event.words[:2]), event.words)

    def test_a_text_that_shares_passages_is_left_to_match(self) -> None:
        for language, (first, second, *others) in _EVENTS.items():
            with self.subTest(language):
                shortened = first[: len(first) * 2 // 3]
                self.assertEqual([event.number for event in same_events(first, [shortened, second], others)], [1])

    def test_words_that_many_texts_have_tell_no_event(self) -> None:
        def text(number: int, *shared: str) -> str:
            words = [*shared, *(_word(1000 + number * 16 + place) for place in range(16))]
            Random(number).shuffle(words)  # noqa: S311 - an order, the same each time
            return " ".join(words)

        season, usual, rare = (
            [_word(place) for place in range(14)],
            [_word(100 + place) for place in range(40)],
            ["Harlow", "Brandt", "mill"],
        )
        seasonal, others = [text(number, *season) for number in range(8)], [text(number) for number in range(8, 100)]
        self.assertEqual(same_events(seasonal[0], seasonal[1:], others), [])
        alike = [text(number, *usual, *rare) for number in (1, 2)]
        self.assertEqual(same_events(alike[0], alike[1:], [text(number, *usual) for number in range(3, 90)]), [])
        told = [text(number, *rare, "2011", "firemen", "Monday", "winter", "bridge") for number in (1, 2)]
        self.assertEqual(len(same_events(told[0], told[1:], others)), 1)

    def test_texts_on_one_matter_come_first_and_others_not_at_all(self) -> None:
        others = [
            "Tickets for the harvest fair at Marl Crossing",
            "The comet above Tarn Holloway grows a second tail",
            "How to polish a telescope mirror at home",
            "A comet and its tail, drawn at Tarn Holloway by children",
        ]
        found = similar_texts("Comet seen at Tarn Holloway: its tail is longer than a hand", others)
        self.assertEqual(sorted(found), [1, 3])
        # One rare word alone is no matter, and words of all texts are none either.
        self.assertEqual(similar_texts("Comet", others), [])
        self.assertEqual(similar_texts("Weekly notes", [f"Weekly notes number {place}" for place in range(60)]), [])

    def test_empty_and_hostile_texts_find_nothing(self) -> None:
        self.assertEqual(same_events("", ["", "a"], []), [])
        self.assertEqual(same_events("word " * 100_000, ["other " * 100_000]), [])
