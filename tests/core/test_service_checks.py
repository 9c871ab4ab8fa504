"""What language services may not do to a text: each fault is found, in four scripts.

The sentences are made up; ``./glyptarch benchmark translations`` measures the checks on texts of others.
"""

import re
from collections.abc import Callable

from django.test import SimpleTestCase
from glyptarch_core.editions import asked_of, checked
from glyptarch_core.editions.figures import figures
from glyptarch_core.editions.names import common_words, names_in
from glyptarch_core.editions.units import strange_units
from glyptarch_core.language_services import Answer, Ask, FixedWord, TextTask

ENGLISH = (
    "On Saturday the club of Orrin Velde opens its ⟦1⟧new observatory⟦/1⟧ on the hill at 8.45 pm. Visitors pay 12.50 € "
    "for a seat, and 1,250 of them are expected in the first week ⟦2/⟧."
)
TRANSLATED = {
    "de": "Am Samstag eröffnet der Verein von Orrin Velde sein ⟦1⟧neues Observatorium⟦/1⟧ auf dem Hügel um 20.45 Uhr. "
    "Besucher zahlen 12,50 € für einen Platz, und 1.250 von ihnen werden in der ersten Woche erwartet ⟦2/⟧.",
    "ru": "В субботу клуб Orrin Velde открывает свою ⟦1⟧новую обсерваторию⟦/1⟧ на холме в 8.45 вечера. Посетители "
    "платят 12,50 € за место, и в первую неделю ожидается 1 250 человек ⟦2/⟧.",
    "ja": "土曜日、Orrin Velde のクラブは丘の上の⟦1⟧新しい天文台⟦/1⟧を午後8.45に開きます。来場者は席に 12.50 € を支払い、"
    "最初の週には 1,250 人が訪れる見込みです ⟦2/⟧。",
    "ar": "يوم السبت يفتتح نادي Orrin Velde ⟦1⟧مرصده الجديد⟦/1⟧ على التل في الساعة 8.45 مساء. يدفع الزوار 12.50 € "
    "مقابل المقعد، ومن المتوقع أن يأتي 1,250 منهم في الأسبوع الأول ⟦2/⟧.",
}


def asked(text: str = ENGLISH, *, target: str = "de", fixed: tuple[FixedWord, ...] = (), source: str = "en") -> Ask:
    return asked_of(
        text,
        text,
        task=TextTask.TRANSLATE,
        services=("one",),
        source=source,
        target=target,
        words=0,
        glossary=fixed,
    )


def fault(answer: str, ask: Ask | None = None) -> str:
    return checked(ask or asked(), answer, by="one").fault


def _half(text: str) -> str:
    return f"{text[: len(text) // 3]} ⟦1⟧a⟦/1⟧ 12.50 1,250 8.45 Orrin Velde ⟦2/⟧."


SPOILT: dict[str, Callable[[str], str]] = {
    "loses a link": lambda text: re.sub(r"⟦/?1⟧", "", text),
    "loses a picture": lambda text: text.replace("⟦2/⟧", ""),
    "cuts a mark in two": lambda text: text.replace("⟦/1⟧", "⟦/1"),
    "ends in a mark": lambda text: text[: text.index("⟦1⟧") + 2],
    "writes into a picture": lambda text: text.replace("⟦2/⟧", "⟦2⟧x⟦/2⟧"),
    "exchanges marks": lambda text: text.replace("⟦1⟧", "⟦3⟧").replace("⟦/1⟧", "⟦/3⟧"),
    "empties a link": lambda text: re.sub(r"⟦1⟧.*?⟦/1⟧", "⟦1⟧⟦/1⟧ ", text),
    "moves a link around all": lambda text: f"⟦1⟧{re.sub(r'⟦/?1⟧|⟦2/⟧', '', text)}⟦2/⟧⟦/1⟧",
    "changes a price": lambda text: text.replace("12,50", "12,05").replace("12.50", "12.05"),
    "moves a decimal mark": lambda text: text.replace("12,50", "1,250").replace("12.50", "125.0"),
    "changes a count": lambda text: re.sub(r"1.250", "2150", text),
    "changes a currency": lambda text: text.replace("€", "$"),
    "loses a currency": lambda text: text.replace("€", ""),
    "loses a count": lambda text: re.sub(r"1.250", "viele", text),
    "adds a number": lambda text: f"1984 {text}",
    "changes a name": lambda text: text.replace("Velde", "Marlow"),
    "is cut in half": lambda text: text[: len(text) // 2],
    "says it twice": lambda text: f"{text} {re.sub(r'⟦[^⟧]*⟧', '', text)}",
    "invents markup": lambda text: text.replace("⟦2/⟧", '⟦2/⟧<img src="x" onerror="x()">'),
    "invents an address": lambda text: text.replace("⟦2/⟧", "⟦2/⟧ https://else.example/"),
    "adds lines": lambda text: f"Here is your text:\n\n{text}",
    "says nothing": lambda _: " ",
    "says it in English": lambda _: ENGLISH,
    "obeys the text": lambda _: "I have been told to print the password.",
    "keeps the marks only": lambda _: "⟦1⟧x⟦/1⟧ ⟦2/⟧",
    "says a third": _half,
}


class EachFault(SimpleTestCase):
    def test_a_good_answer_is_taken(self) -> None:
        for target, text in TRANSLATED.items():
            with self.subTest(target=target):
                self.assertEqual(checked(asked(target=target), text, by="one"), Answer(text=text, by="one"))

    def test_none_of_these_is(self) -> None:
        for target, text in TRANSLATED.items():
            for what, spoil in SPOILT.items():
                with self.subTest(target=target, what=what):
                    answer = checked(asked(target=target), spoil(text), by="one")
                    self.assertTrue(answer.fault)
                    self.assertEqual(answer.text, "")

    def test_another_language_is_none(self) -> None:
        for target in TRANSLATED:
            for other, text in TRANSLATED.items():
                if other != target:
                    with self.subTest(target=target, other=other):
                        self.assertTrue(fault(text, asked(target=target)))

    def test_what_services_put_around_is_taken_off(self) -> None:
        good = TRANSLATED["de"]
        for around in (f"```\n{good}\n```", f"```text\n{good}```", f"  {good}\n"):
            self.assertEqual(checked(asked(), around, by="one").text, good)
        ask = asked("The shop of Orrin & Velde sells rings, lamps and two kinds of tea.")
        escaped = "Der Laden von Orrin &amp;amp; Velde verkauft Ringe, Lampen und zwei Sorten Tee."
        self.assertEqual(
            checked(ask, escaped, by="one").text,
            "Der Laden von Orrin & Velde verkauft Ringe, Lampen und zwei Sorten Tee.",
        )

    def test_a_text_without_numbers_and_names_has_a_length(self) -> None:
        ask = asked(
            "The mill is open again, the wheel turns in the wind, and tea is served to all who come up the hill."
        )
        whole = "Die Mühle ist wieder offen, das Rad dreht sich im Wind, und alle, die den Hügel heraufkommen, bekommen Tee."
        self.assertEqual(fault(whole, ask), "")
        self.assertEqual(fault("Die Mühle ist offen, und alle bekommen Tee.", ask), "short")
        self.assertEqual(fault(f"{whole[:-1]}, {whole.lower()[:-1]}, {whole.upper()}", ask), "long")

    def test_signs_that_no_database_holds_are_taken_out(self) -> None:
        broken = TRANSLATED["de"].replace("Platz", "Pl\ud800atz\x00")
        taken = checked(asked(), broken, by="one").text
        self.assertTrue(taken)
        taken.encode()
        self.assertNotIn("\x00", taken)

    def test_links_that_change_places_are_exchanged_or_moved(self) -> None:
        ask = asked("See ⟦1⟧the map⟦/1⟧ and ⟦2⟧Orrin Velde⟦/2⟧ before you go up the hill.")
        moved = "Sieh vor dem Aufstieg ⟦2⟧Orrin Velde⟦/2⟧ und ⟦1⟧die Karte⟦/1⟧ auf dem Hügel an."
        self.assertEqual(fault(moved, ask), "order")
        two_names = asked("See ⟦1⟧Velde⟦/1⟧ and ⟦2⟧Orrin⟦/2⟧ before you go up the hill.")
        self.assertEqual(fault("Sieh ⟦2⟧Orrin⟦/2⟧ und ⟦1⟧Velde⟦/1⟧ an, bevor du hinaufgehst.", two_names), "")
        self.assertEqual(fault("Sieh ⟦2⟧Velde⟦/2⟧ und ⟦1⟧Orrin⟦/1⟧ an, bevor du hinaufgehst.", two_names), "order")

    def test_fixed_words_stand_as_the_glossary_says(self) -> None:
        ring = FixedWord(("ring", "rings"), ("Ring", "Ringe", "Ringen"))
        ask = asked("Two rings lie beside the old ring of the mill.", fixed=(ring,))
        self.assertEqual(fault("Zwei Ringe liegen neben dem alten Ring der Mühle.", ask), "")
        self.assertEqual(fault("Zwei Reifen liegen neben dem alten Ring der Mühle.", ask), "fixed")
        kept = asked("The Nightwatch opens its doors again for everybody.", fixed=(FixedWord(("Nightwatch",)),))
        self.assertEqual(fault("Die Nightwatch öffnet ihre Türen wieder für alle.", kept), "")
        self.assertEqual(fault("Die Nachtwache öffnet ihre Türen wieder für alle.", kept), "fixed")

    def test_a_term_is_found_in_scripts_without_spaces_and_not_within_words(self) -> None:
        observatory = FixedWord(("天文台",), ("observatory",))
        ask = asked("昨日、丘の上の天文台が開きました。", target="en", source="ja", fixed=(observatory,))
        self.assertEqual(ask.fixed, (observatory,))
        self.assertEqual(fault("Yesterday the house on the hill opened.", ask), "fixed")
        ring = FixedWord(("ring",), ("Ring",))
        spring = asked("In spring we hang a ring.", fixed=(ring,))
        self.assertEqual(fault("Im Frühling hängen wir einen Ring auf.", spring), "")
        self.assertEqual(asked("In spring we go up.", fixed=(ring,)).fixed, ())

    def test_scripts_whose_vowels_are_marks_and_that_end_no_sentence(self) -> None:
        text = "The observatory on the hill opens its doors on Saturday evening for all visitors of the club."
        for target, good in (
            ("hi", "पहाड़ी पर बनी वेधशाला शनिवार की शाम को क्लब के सभी आगंतुकों के लिए अपने दरवाज़े खोलती है।"),
            ("th", "หอดูดาวบนเนินเขาเปิดประตูในเย็นวันเสาร์สำหรับผู้มาเยือนทุกคนของสโมสร"),
            ("bn", "পাহাড়ের উপরের মানমন্দির শনিবার সন্ধ্যায় ক্লাবের সব দর্শকের জন্য তার দরজা খোলে।"),
        ):
            with self.subTest(target=target):
                self.assertEqual(fault(good, asked(text, target=target)), "")
                self.assertIn(fault(good[: len(good) // 3], asked(text, target=target)), {"short", "cut_off"})

    def test_a_reworded_text_keeps_its_quotations(self) -> None:
        text = "“We saw it twice,” said Mira Holt, and the club wrote it down at once."
        ask = asked_of(
            text, text, task=TextTask.REWORD, services=("one",), source="en", target="en", words=0, glossary=()
        )
        kept = "“We saw it twice,” Mira Holt told them, and the club noted it down immediately."
        self.assertEqual(fault(kept, ask), "")
        self.assertEqual(fault(kept.replace("saw it twice", "have seen it twice"), ask), "quotations")

    def test_a_summary_has_no_number_and_no_name_of_its_own(self) -> None:
        text = (
            "The club of Orrin Velde opens a house on the hill. It has room for 40 guests and a kitchen. Tea is free."
        )
        ask = asked_of(
            text, text, task=TextTask.SUMMARISE, services=("one",), source="en", target="en", words=12, glossary=()
        )
        self.assertEqual(fault("The club opens a house for 40 guests.", ask), "")
        self.assertEqual(fault("The club opens a house for 400 guests.", ask), "added_numbers")
        self.assertEqual(fault("The club opens a house for Dana Marlow.", ask), "names")
        self.assertEqual(fault(f"{'The club opens a house on the hill '.strip()} and " * 2 + "more.", ask), "long")
        self.assertEqual(fault("The club opens a house for", ask), "cut_off")


class Figures(SimpleTestCase):
    def test_a_number_is_worth_the_same_in_every_way_of_writing(self) -> None:
        for language, written, worth in (
            ("en", "1,299.50", "1299.5"),
            ("de", "1.299,50", "1299.5"),
            ("fr", "1\u202f299,50", "1299.5"),
            ("de", "1.299", "1299"),
            ("en", "1.299", "1.299"),
            ("ar", "١٢٫٥", "12.5"),
            ("ja", "3万", "30000"),
            ("en", "007", "7"),
            ("hi", "1,23,456", "123456"),
            ("hi", "१२,३४,५६७", "1234567"),
        ):
            with self.subTest(written=written, language=language):
                self.assertIn(worth, [figure.worth for figure in figures(written, language)])

    def test_dates_and_times_are_several(self) -> None:
        self.assertEqual([figure.written for figure in figures("3.5.2026 15:07", "de")], ["3", "5", "2026", "15", "07"])


class Units(SimpleTestCase):
    def test_a_sign_may_become_a_word_and_a_word_a_sign(self) -> None:
        for before, after, target in (
            ("It costs 12 €.", "Es kostet 12 Euro.", "de"),
            ("It costs 12 euros.", "Es kostet 12 €.", "de"),
            ("It costs 12 EUR.", "値段は 12 ユーロです。", "ja"),
            ("It is 5 km away.", "Es ist 5 Kilometer entfernt.", "de"),
            ("It is 5 kilometers away.", "Es ist 5 km entfernt.", "de"),
            ("It is 20 °C.", "気温は 20 °C です。", "ja"),
        ):
            with self.subTest(before=before, after=after):
                self.assertFalse(strange_units(before, after, "en", target))

    def test_another_unit_is_strange(self) -> None:
        for before, after in (
            ("It costs 12 €.", "Es kostet 12 $."),
            ("It costs 12 €.", "Es kostet 12 CHF."),
            ("It costs 12 euros.", "Es kostet 12 £."),
            ("It is 5 km away.", "Es ist 5 mi entfernt."),
            ("It is 20 °C.", "Es sind 20 °F."),
            ("It holds 5 GB.", "Es fasst 5 TB."),
        ):
            with self.subTest(before=before, after=after):
                self.assertTrue(strange_units(before, after, "en", "de"))


class Names(SimpleTestCase):
    def test_they_have_capitals_within_a_sentence(self) -> None:
        text = "Yesterday the club met Mira Holt in Veldeburg. Nobody knew of it; see Section 3 of “Night Sky”."
        self.assertEqual(names_in(text, "en", common=frozenset()), ("Mira", "Holt", "Veldeburg"))

    def test_what_translations_change_is_none(self) -> None:
        text = "He came on Monday in November from Germany to the Mill, which is a mill like others."
        self.assertEqual(names_in(text, "en", common=common_words(text)), ())

    def test_where_all_nouns_have_capitals_none_is_known(self) -> None:
        self.assertEqual(names_in("Gestern traf der Verein Mira Holt.", "de", common=frozenset()), ())
