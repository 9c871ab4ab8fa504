"""Languages as records: dates, notices and sentence ends in each of them."""

from datetime import UTC, datetime, timedelta

from django.test import SimpleTestCase
from glyptarch_core.languages import LANGUAGES, language_of
from glyptarch_core.languages.dates import day_comes_first, find_date
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.text import sentences
from hypothesis import given
from hypothesis import strategies as st

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
DAY = datetime(2026, 11, 24, tzinfo=UTC)
THREE = DAY + timedelta(hours=15, minutes=5)


class Records(SimpleTestCase):
    def test_every_language_has_what_pages_and_dates_need(self) -> None:
        self.assertGreaterEqual(len(LANGUAGES), 24)
        for code, language in LANGUAGES.items():
            with self.subTest(code):
                self.assertEqual(set(language.months.values()), set(range(1, 13)))
                self.assertGreaterEqual(len(language.weekdays), 7)
                self.assertTrue(any(seconds == 3600 for seconds in language.ago.values()))
                for part in ("byline", "dated", "today", "notices", "read_more", "next_page", "consent", "agree"):
                    self.assertTrue(getattr(language, part), part)

    def test_a_tag_with_a_country_and_an_old_one_name_the_same_record(self) -> None:
        self.assertEqual([language_of(tag).code for tag in ("de-AT", "no", "iw", "EN_us", "tlh")], ["de", "nb", "he", "en", "root"])  # fmt: skip


class Dates(SimpleTestCase):
    CASES = (
        ("pl", "24 listopada 2026", DAY),
        ("hr", "24. listopada 2026.", DAY.replace(month=10)),
        ("", "2026년 11월 24일 오후 3:05", THREE),
        ("ar", "24 نوفمبر 2026", DAY),
        ("ar", "٢٤ نوفمبر ٢٠٢٦", DAY),
        ("ar", "24 تشرين الثاني 2026", DAY),
        ("hi", "24 नवंबर 2026", DAY),
        ("bn", "২৪ নভেম্বর ২০২৬", DAY),
        ("th", "24 พฤศจิกายน 2569", DAY),
        ("th", "24 พ.ย. 2569", DAY),
        ("he", "24 בנובמבר 2026", DAY),
        ("fa", "24 نوامبر 2026", DAY),
        ("el", "24 Νοεμβρίου 2026", DAY),
        ("", "Nov 24, 2026", DAY),
        ("", "November 24th, 2026 at 3:05 PM", THREE),
        ("", "Tue 24 Nov 2026 15:05 GMT+0100", THREE - timedelta(hours=1)),
        ("hu", "2026. november 24.", DAY),
        ("lt", "2026 m. lapkričio 24 d.", DAY),
        ("lv", "2026. gada 24. novembris", DAY),
        ("vi", "ngày 24 tháng 11 năm 2026", DAY),
        ("ja", "令和8年11月24日", DAY),
        ("zh", "2026年11月24日 下午3点05分", THREE),
        ("fi", "24. marraskuuta 2026 klo 15.05", THREE),
        ("ca", "24 d’octubre de 2026", DAY.replace(month=10)),
        ("uk", "24 листопада 2026 р., 15:05", THREE),
        ("id", "24 November 2026 pukul 15.05 WIB", THREE - timedelta(hours=7)),
        ("", "24.11.26", DAY),
    )

    def test_are_found_in_the_words_and_digits_of_each_script(self) -> None:
        for language, text, wanted in self.CASES:
            with self.subTest(text):
                self.assertEqual(moment_of(text, language), wanted)
                found = find_date(f"— {text} —", language)
                assert found is not None
                self.assertEqual(found.moment, wanted)

    def test_without_a_language_a_name_of_two_months_is_none(self) -> None:
        self.assertIsNone(find_date("24 listopada 2026"))

    def test_the_order_of_day_and_month_is_that_of_the_language_country_or_column(self) -> None:
        third_of_april, fourth_of_march = DAY.replace(month=4, day=3), DAY.replace(month=3, day=4)
        for language, wanted in (("", None), ("en", None), ("en-US", fourth_of_march), ("en-GB", third_of_april), ("fr", third_of_april)):  # fmt: skip
            with self.subTest(language):
                found = find_date("03/04/2026", language)
                self.assertEqual(found and found.moment, wanted)
        found = find_date("03/04/2026", day_first=False)
        self.assertEqual(found and found.moment, fourth_of_march)
        columns = (["03/04/2026", "04/25/2026"], ["03/04/2026", "25/04/2026"], ["13/04/2026", "04/13/2026"])
        self.assertEqual([day_comes_first(column) for column in columns], [False, True, None])

    def test_past_times_and_dates_without_a_year_count_from_now(self) -> None:
        for text, wanted in (
            ("3 hours ago", NOW - timedelta(hours=3)),
            ("vor 3 Stunden", NOW - timedelta(hours=3)),
            ("3시간 전", NOW - timedelta(hours=3)),
            ("2 dni temu", NOW - timedelta(days=2)),
            ("yesterday at 14:30", DAY + timedelta(hours=-24 + 14, minutes=30)),
            ("Gestern, 9:15 Uhr", DAY + timedelta(hours=-24 + 9, minutes=15)),
            ("24 November", DAY),
            ("12 December", DAY.replace(year=2025, month=12, day=12)),
            ("11月24日", DAY),
        ):
            with self.subTest(text):
                found = find_date(text, now=NOW)
                self.assertEqual(found and found.moment, wanted)
                self.assertIsNone(find_date(text))

    def test_what_only_looks_like_a_date_is_none(self) -> None:
        for text in ("version 3.14.15", "call 12-34-56-78", "May 2026", "page 3 of 24", "31 November 2026", "24/7", "1.5.2.1.9"):  # fmt: skip
            with self.subTest(text):
                self.assertIsNone(find_date(text, "en", now=NOW))

    @given(st.text(max_size=80), st.sampled_from(["", "en", "th", "ja", "xx"]))
    def test_any_text_gives_a_date_within_it_or_none(self, text: str, language: str) -> None:
        found = find_date(text, language, now=NOW)
        if found is not None:
            self.assertTrue(0 <= found.start < found.end <= len(text))


class SentenceEnds(SimpleTestCase):
    def test_abbreviations_of_the_language_end_no_sentence(self) -> None:
        self.assertEqual(sentences("Pres. Lane spoke. All went home."), ["Pres. Lane spoke.", "All went home."])
        polish = "Mówił mgr. Kowal. Potem wyszli."
        self.assertEqual(len(sentences(polish, language="pl")), 2)
        self.assertEqual(len(sentences("Give it to me. Then go.", language="en")), 2)
