"""The language of a text is found by its letters.

The texts are the first sentences of the Universal Declaration of Human Rights (United Nations, 1948), article 1.
"""

import threading

from django.test import SimpleTestCase
from glyptarch_core.item import Item, features_of
from glyptarch_core.text import found_language

TEXTS = {
    "en": "All human beings are born free and equal in dignity and rights.",
    "de": "Alle Menschen sind frei und gleich an Würde und Rechten geboren.",
    "fr": "Tous les êtres humains naissent libres et égaux en dignité et en droits.",
    "es": "Todos los seres humanos nacen libres e iguales en dignidad y derechos.",
    "it": "Tutti gli esseri umani nascono liberi ed eguali in dignità e diritti.",
    "pt": "Todos os seres humanos nascem livres e iguais em dignidade e em direitos.",
    "nl": "Alle mensen worden vrij en gelijk in waardigheid en rechten geboren.",
    "sv": "Alla människor är födda fria och lika i värde och rättigheter.",
    "da": "Alle mennesker er født frie og lige i værdighed og rettigheder.",
    "nb": "Alle mennesker er født frie og med samme menneskeverd og menneskerettigheter.",
    "fi": "Kaikki ihmiset syntyvät vapaina ja tasavertaisina arvoltaan ja oikeuksiltaan.",
    "pl": "Wszyscy ludzie rodzą się wolni i równi pod względem swej godności i swych praw.",
    "cs": "Všichni lidé rodí se svobodní a sobě rovní co do důstojnosti a práv.",
    "hu": "Minden emberi lény szabadon születik és egyenlő méltósága és joga van.",
    "ro": "Toate ființele umane se nasc libere și egale în demnitate și în drepturi.",
    "tr": "Bütün insanlar hür, haysiyet ve haklar bakımından eşit doğarlar.",
    "ru": "Все люди рождаются свободными и равными в своем достоинстве и правах.",
    "uk": "Всі люди народжуються вільними і рівними у своїй гідності та правах.",
    "bg": "Всички хора се раждат свободни и равни по достойнство и права.",
    "el": "Όλοι οι άνθρωποι γεννιούνται ελεύθεροι και ίσοι στην αξιοπρέπεια και τα δικαιώματα.",
    "ar": "يولد جميع الناس أحرارًا متساوين في الكرامة والحقوق.",
    "he": "כל בני האדם נולדו בני חורין ושווים בערכם ובזכויותיהם.",
    "hi": "सभी मनुष्यों को गौरव और अधिकारों के मामले में जन्मजात स्वतन्त्रता और समानता प्राप्त है।",
    "th": "มนุษย์ทั้งหลายเกิดมามีอิสระและเสมอภาคกันในเกียรติศักดิ์และสิทธิ",
    "ja": "すべての人間は、生まれながらにして自由であり、かつ、尊厳と権利とについて平等である。",
    "zh": "人人生而自由，在尊严和权利上一律平等。他们赋有理性和良心，并应以兄弟关系的精神相对待。",
    "ko": "모든 인간은 태어날 때부터 자유로우며 그 존엄과 권리에 있어 동등하다.",
    "vi": "Tất cả mọi người sinh ra đều được tự do và bình đẳng về nhân phẩm và quyền lợi.",
}


class Found(SimpleTestCase):
    def test_a_sentence_is_enough(self) -> None:
        self.assertEqual({code: found_language(text) for code, text in TEXTS.items()}, {code: code for code in TEXTS})

    def test_too_little_or_no_language_gives_none(self) -> None:
        for text in ("", "Comet 9.3", "12 34 56 78 90 12 34 56 78 90 12 34", "M31 M42 NGC 891", "\ud800" * 40):
            self.assertEqual(found_language(text), "", text)

    def test_words_of_many_languages_are_in_none(self) -> None:
        for text in ("Media hotel radio video stadion taxi", "Orion Vega Deneb Altair Capella Rigel"):
            self.assertEqual(found_language(text), "")

    def test_only_the_beginning_of_a_long_text_is_looked_at(self) -> None:
        self.assertEqual(found_language(TEXTS["de"] * 100 + TEXTS["fr"] * 100_000), "de")

    def test_many_threads_at_once(self) -> None:
        found: list[str] = []
        threads = [threading.Thread(target=lambda: found.append(found_language(TEXTS["pl"]))) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(found, ["pl"] * 8)


class OfItems(SimpleTestCase):
    def item(self, language: str, body: str = "", summary: str = "", title: str = "") -> Item:
        return Item(source="s", identity="i", link="", title=title, language=language, body=body, summary=summary)

    def test_what_the_source_states_counts(self) -> None:
        self.assertEqual(features_of(self.item("en", f"<p>{TEXTS['de']}</p>")).language, "")

    def test_text_else_title_with_summary(self) -> None:
        self.assertEqual(features_of(self.item("", f"<p>{TEXTS['de']}</p>", TEXTS["fr"])).language, "de")
        self.assertEqual(features_of(self.item("", "", TEXTS["fr"], "Les droits")).language, "fr")
        self.assertEqual(features_of(self.item("", title="Alle Menschen sind frei und gleich geboren")).language, "de")
