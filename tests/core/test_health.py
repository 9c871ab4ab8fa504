"""The health of sources, and the wait before they are read again."""

import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from glyptarch_core.health import Health, ItemFacts, Readings, Report, health_of
from glyptarch_core.polling import after_failure, after_success
from hypothesis import given
from hypothesis import strategies as st

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)
PLAIN = ItemFacts(dated=NOW, has_date=True, words=300, has_picture=True, has_author=True)


def each(hours: Sequence[float]) -> list[ItemFacts]:
    return [replace(PLAIN, dated=NOW - timedelta(hours=hour)) for hour in hours]


def judged(
    items: Sequence[ItemFacts],
    *,
    failures: int = 0,
    minutes: float = 0,
    lately: int = 0,
    gone: bool = False,
    given: bool = True,
) -> Report:
    readings = Readings(
        failures=failures,
        failing_since=NOW - timedelta(minutes=minutes) if failures else None,
        failed_lately=max(lately, failures),
        gone=gone,
        given=given,
    )
    return health_of(items, readings, now=NOW)


class HealthOfASource(unittest.TestCase):
    def test_what_has_given_nothing_yet_fails_or_is_gone_says_so_first(self) -> None:
        self.assertIs(judged([], given=False).health, Health.UNREAD)
        self.assertIs(judged(each(range(20)), failures=3, minutes=60).health, Health.FAILING)
        self.assertEqual(judged([], failures=3, minutes=30, given=False).data, {"failures": 3})
        self.assertIs(judged(each(range(20)), failures=3, minutes=60, gone=True).health, Health.GONE)

    def test_failing_takes_three_failures_over_a_time_that_fits_the_rhythm(self) -> None:
        hourly, weekly = each(range(20)), each([168 * n for n in range(8)])
        for items, failures, minutes, health in (
            ([], 1, 600, Health.UNSTEADY),
            ([], 2, 600, Health.UNSTEADY),
            ([], 3, 29, Health.UNSTEADY),
            ([], 3, 30, Health.FAILING),
            (hourly, 3, 59, Health.UNSTEADY),
            (hourly, 3, 60, Health.FAILING),
            (weekly, 9, 23 * 60, Health.UNSTEADY),
            (weekly, 9, 24 * 60, Health.FAILING),
        ):
            with self.subTest(items=len(items), failures=failures, minutes=minutes):
                self.assertIs(judged(items, failures=failures, minutes=minutes).health, health)

    def test_one_that_never_gave_anything_waits_for_its_first_reading(self) -> None:
        early = judged([], failures=2, minutes=5, given=False)
        self.assertEqual((early.health, early.data), (Health.UNREAD, {"failures": 2}))

    def test_one_that_comes_and_goes_keeps_one_state(self) -> None:
        items = each(range(20))
        states = {judged(items, failures=failures, lately=5).health for failures in (0, 1, 0, 1)}
        self.assertEqual(states, {Health.UNSTEADY})
        self.assertIs(judged(items, lately=2).health, Health.OK)

    def test_a_silence_is_measured_by_the_rhythm_of_the_source(self) -> None:
        hourly, weekly = each([60 + n for n in range(20)]), each([200 + 168 * n for n in range(8)])
        quiet = judged(hourly)
        self.assertIs(quiet.health, Health.QUIET)
        self.assertEqual((quiet.data["hours"], quiet.data["longest_hours"], quiet.data["gaps"]), (60, 1.0, 19))
        self.assertIs(judged(weekly).health, Health.OK)
        self.assertIs(judged(each([400 + 168 * n for n in range(8)])).health, Health.QUIET)

    def test_a_pause_as_long_as_earlier_ones_is_no_silence(self) -> None:
        with_a_holiday = each([300, 301, 302, 303, 304, 305, 600, 601, 602])
        self.assertIs(judged(with_a_holiday).health, Health.OK)

    def test_a_night_is_no_silence_and_few_items_have_no_rhythm(self) -> None:
        self.assertIs(judged(each([20 + n / 10 for n in range(20)])).health, Health.OK)
        self.assertIs(judged(each([900, 901, 902, 903, 904])).health, Health.OK)

    def test_dates_ahead_hide_no_silence(self) -> None:
        self.assertIs(judged(each([-500, *(60 + n for n in range(20))])).health, Health.QUIET)

    def test_fields_that_were_always_there_and_are_gone(self) -> None:
        items = each(range(30))
        changed = judged([replace(item, has_date=False, has_picture=False) for item in items[:10]] + items[10:])
        self.assertEqual((changed.health, changed.data["lost"]), (Health.CHANGED, ["date", "picture"]))
        # A source with occasional pictures has not changed when it has none for a while.
        mixed = [replace(one, has_picture=n % 3 == 0) for n, one in enumerate(items[10:])]
        self.assertIs(judged([replace(item, has_picture=False) for item in items[:10]] + mixed).health, Health.OK)

    def test_a_field_that_some_items_still_have_is_not_lost(self) -> None:
        items = each(range(30))
        some = [replace(one, has_author=n % 3 == 0) for n, one in enumerate(items[:10])]
        self.assertIs(judged(some + items[10:]).health, Health.OK)

    def test_texts_of_half_or_twice_the_length(self) -> None:
        items = each(range(30))
        for words, health in ((140, Health.CHANGED), (160, Health.OK), (590, Health.OK), (610, Health.CHANGED)):
            found = judged([replace(item, words=words) for item in items[:10]] + items[10:])
            self.assertIs(found.health, health, words)
        found = judged([replace(item, words=40) for item in items[:10]] + items[10:])
        self.assertEqual((found.data["words"], found.data["words_before"]), (40, 300))

    def test_too_few_items_to_compare(self) -> None:
        items = each(range(14))
        self.assertIs(judged([replace(item, words=5) for item in items[:5]] + items[5:]).health, Health.OK)


class Waits(unittest.TestCase):
    def test_success_waits_as_long_as_the_source_asks_within_a_day(self) -> None:
        self.assertEqual(after_success(), timedelta(minutes=1))
        self.assertEqual(after_success(wished=timedelta(hours=1)), timedelta(hours=1))
        self.assertEqual(after_success(wished=timedelta(days=365)), timedelta(days=1))
        self.assertEqual(after_success(wished=timedelta(days=-1)), timedelta(minutes=1))

    def test_failures_wait_twice_as_long_each_time_up_to_a_day(self) -> None:
        minutes = [after_failure(number, "club") / timedelta(minutes=1) for number in range(1, 12)]
        for number, wait in enumerate(minutes):
            least = min(5 * 2**number, 24 * 60)
            self.assertTrue(least <= wait <= least * 1.2, (number, wait))

    def test_what_the_server_asks_for_is_kept_up_to_a_day(self) -> None:
        self.assertEqual(after_failure(1, "club", asked=timedelta(hours=2)), timedelta(hours=2))
        self.assertLess(after_failure(1, "club", asked=timedelta(days=9)), timedelta(days=2))

    def test_sources_that_failed_together_do_not_come_back_together(self) -> None:
        self.assertGreater(len({after_failure(3, f"source-{number}") for number in range(20)}), 15)

    @given(st.integers(-5, 10**6), st.text(), st.timedeltas())
    def test_any_wait_lies_between_a_minute_and_a_little_more_than_a_day(
        self, failures: int, key: str, asked: timedelta
    ) -> None:
        for wait in (after_failure(failures, key, asked=asked), after_success(wished=asked)):
            self.assertTrue(timedelta(minutes=1) <= wait <= timedelta(days=1.2))


class HoursToSkip(unittest.TestCase):
    def test_the_wait_ends_at_the_first_hour_that_is_not_skipped(self) -> None:
        at = NOW.replace(minute=40)
        wait = after_success(wished=timedelta(minutes=30), now=at, skip_hours=frozenset({13, 14}))
        self.assertEqual(at + wait, NOW.replace(hour=15))

    def test_an_hour_that_is_not_skipped_changes_nothing(self) -> None:
        for hours in (frozenset[int](), frozenset({3})):
            self.assertEqual(after_success(now=NOW, skip_hours=hours), timedelta(minutes=1))

    @given(st.frozensets(st.integers(0, 23)), st.timedeltas(timedelta(0), timedelta(days=2)))
    def test_it_waits_at_most_two_days(self, hours: frozenset[int], wished: timedelta) -> None:
        wait = after_success(wished=wished, now=NOW, skip_hours=hours)
        self.assertLessEqual(wait, timedelta(days=2))
        if len(hours) < 24:
            self.assertNotIn((NOW + wait).hour, hours)
