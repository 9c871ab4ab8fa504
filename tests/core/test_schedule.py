"""Schedules: cases by hand, clock changes, and properties of all."""

from datetime import UTC, date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.test import SimpleTestCase
from glyptarch_core.schedule import Schedule, next_times
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

BERLIN = ZoneInfo("Europe/Berlin")
LORD_HOWE = ZoneInfo("Australia/Lord_Howe")
APIA = ZoneInfo("Pacific/Apia")


def at(text: str, zone: ZoneInfo = BERLIN) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=zone)


def times(when: dict[str, Any], after: datetime, count: int = 3, **days: Any) -> list[str]:  # noqa: ANN401
    found = next_times(Schedule.model_validate({"when": when, **days}), after.tzinfo or UTC, after, count)
    return [f"{one.astimezone(after.tzinfo):%m-%d %H:%M}" for one in found]


class Cases(SimpleTestCase):
    def test_by_hand_never(self) -> None:
        self.assertEqual(times({"kind": "hand"}, at("2026-11-26T12:00")), [])

    def test_every_so_many_minutes_on_the_round_time(self) -> None:
        self.assertEqual(
            times({"kind": "every", "minutes": 60}, at("2026-11-26T12:00")),
            ["11-26 13:00", "11-26 14:00", "11-26 15:00"],
        )
        self.assertEqual(times({"kind": "every", "minutes": 30}, at("2026-11-26T12:29:59"), 1), ["11-26 12:30"])

    def test_daily_at_several_times_on_some_days(self) -> None:
        # The 26th of November 2026 is a Thursday.
        when = {"kind": "daily", "times": ["18:00", "07:30", "07:30"], "days": [4, 6]}
        self.assertEqual(times(when, at("2026-11-26T07:30")), ["11-26 18:00", "11-28 07:30", "11-28 18:00"])

    def test_cron(self) -> None:
        when = {"kind": "cron", "expression": "15 6 * * mon-fri"}
        self.assertEqual(times(when, at("2026-11-26T12:00")), ["11-27 06:15", "11-30 06:15", "12-01 06:15"])

    def test_from_the_first_day_to_the_end_of_the_last(self) -> None:
        when = {"kind": "daily", "times": ["00:00", "23:59"]}
        days = {"first_day": "2026-12-01", "last_day": "2026-12-01"}
        self.assertEqual(times(when, at("2026-11-26T12:00"), 9, **days), ["12-01 00:00", "12-01 23:59"])
        self.assertEqual(times(when, at("2026-12-02T12:00"), 9, **days), [])

    def test_no_schedule_begins_or_is_followed_beyond_2200(self) -> None:
        for when in (
            {"kind": "every", "minutes": 60},
            {"kind": "daily", "times": ["06:00"]},
            {"kind": "cron", "expression": "0 6 * * *"},
        ):
            with self.assertRaises(ValidationError):
                Schedule.model_validate({"when": when, "first_day": "2355-01-01"})
            self.assertEqual(
                len(times(when, at("2199-12-31T04:30", ZoneInfo("UTC")), 40)), 19 if when["kind"] == "every" else 1
            )

    def test_a_date_that_never_comes(self) -> None:
        self.assertEqual(times({"kind": "cron", "expression": "0 0 30 2 *"}, at("2026-11-26T12:00")), [])

    def test_what_cannot_be_read_is_refused_with_a_reason(self) -> None:
        for when, said in (
            ({"kind": "cron", "expression": "61 * * * *"}, "cannot be read"),
            ({"kind": "cron", "expression": "* * * *"}, "five parts"),
            ({"kind": "cron", "expression": "0 0 * * * *"}, "five parts"),
            ({"kind": "cron", "expression": "@reboot"}, "pattern"),
            ({"kind": "every", "minutes": 1}, "greater than or equal to 5"),
            ({"kind": "daily", "times": ["24:00"]}, "pattern"),
            ({"kind": "daily", "times": []}, "at least 1"),
        ):
            with self.subTest(when), self.assertRaisesRegex(ValidationError, said):
                Schedule.model_validate({"when": when})
        with self.assertRaisesRegex(ValidationError, "last day lies before"):
            Schedule(first_day=date(2026, 12, 2), last_day=date(2026, 12, 1))


class ChangesOfTheClock(SimpleTestCase):
    def test_a_skipped_hour_is_run_once_when_it_ends(self) -> None:
        # On the 28th of March 2027 two o'clock is followed by three in Berlin.
        when = {"kind": "daily", "times": ["02:10", "02:30", "03:00", "04:00"]}
        self.assertEqual(times(when, at("2027-03-28T00:00"), 3), ["03-28 03:00", "03-28 04:00", "03-29 02:10"])
        self.assertEqual(
            times({"kind": "cron", "expression": "*/20 2 * * *"}, at("2027-03-28T00:00"), 2),
            ["03-28 03:00", "03-29 02:00"],
        )

    def test_a_doubled_hour_is_run_once(self) -> None:
        # On the 25th of October 2026 the hour from two to three comes twice in Berlin.
        after = at("2026-10-25T00:00")
        found = next_times(Schedule.model_validate({"when": {"kind": "daily", "times": ["02:30"]}}), BERLIN, after, 2)
        self.assertEqual([f"{one:%d %H:%M}" for one in found], ["25 00:30", "26 01:30"])
        # In the second of the doubled hours, the next run is tomorrow.
        second = datetime(2026, 10, 25, 1, 5, tzinfo=UTC)
        self.assertEqual(times({"kind": "daily", "times": ["02:30"]}, second.astimezone(BERLIN), 1), ["10-26 02:30"])

    def test_gaps_of_half_an_hour_and_of_a_day(self) -> None:
        # Lord Howe puts its clocks forward by half an hour; Apia left out the 30th of December 2011.
        half = times({"kind": "daily", "times": ["02:15"]}, at("2026-10-03T12:00", LORD_HOWE), 2)
        self.assertEqual(half, ["10-04 02:30", "10-05 02:15"])
        day = times({"kind": "daily", "times": ["10:00"]}, at("2011-12-29T00:00", APIA), 3)
        self.assertEqual(day, ["12-29 10:00", "12-31 00:00", "12-31 10:00"])


_WHENS = st.one_of(
    st.builds(lambda minutes: {"kind": "every", "minutes": minutes}, st.integers(5, 2000)),
    st.builds(
        lambda minutes, days: {"kind": "daily", "times": [f"{m // 60:02}:{m % 60:02}" for m in minutes], "days": days},
        st.lists(st.integers(0, 1439), min_size=1, max_size=5),
        st.lists(st.integers(1, 7), min_size=1, max_size=7),
    ),
    st.sampled_from(["*/15 * * * *", "0 2 * * *", "30 1-3 * * 0", "5 4 1 * *", "0 0 29 2 *"]).map(
        lambda text: {"kind": "cron", "expression": text}
    ),
)
_ZONES = st.sampled_from(
    ["UTC", "Europe/Berlin", "America/St_Johns", "Australia/Lord_Howe", "Pacific/Apia", "Asia/Kolkata"]
)
_MOMENTS = st.integers(0, 9000).map(
    lambda hours: datetime(2005, 1, 1, 0, 7, tzinfo=UTC) + timedelta(days=hours, minutes=hours)
)


class AnySchedule(SimpleTestCase):
    @settings(max_examples=200, deadline=None)
    @given(_WHENS, _ZONES, _MOMENTS, st.integers(0, 40))
    def test_times_follow_each_other_and_one_asks_on_from_any_of_them(
        self, when: dict[str, Any], zone: str, after: datetime, span: int
    ) -> None:
        place = ZoneInfo(zone)
        first = after.astimezone(place).date() + timedelta(days=2)
        days = {"first_day": first, "last_day": first + timedelta(days=span)}
        schedule = Schedule.model_validate({"when": when, **days})
        found = next_times(schedule, place, after, 12)
        self.assertEqual(found, sorted(set(found)))
        for one in found:
            self.assertGreater(one, after)
            self.assertTrue(days["first_day"] <= one.astimezone(place).date() <= days["last_day"])
        if len(found) > 1:
            self.assertEqual(next_times(schedule, place, found[0], 11), found[1:])
