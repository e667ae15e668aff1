"""What goes out: states in one line, times also where clocks are set, waits that grow, what an outlet would not take."""

from datetime import UTC, datetime, timedelta
from itertools import product
from zoneinfo import ZoneInfo

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.errors import CoreError
from hovvet.core.outbox.fitting import Limits, outgoing, unfit
from hovvet.core.outbox.states import ASKS, SENDINGS, STATES, Known, state_of
from hovvet.core.outbox.times import STEPS, in_time, is_late, is_twice, moment, series, zones
from hovvet.core.outbox.trying import WAITS, wait_after
from hovvet.core.post.post import Post

ZONE = "Europe/Berlin"  # clocks go forward on 28 March 2027 at 2:00, back on 31 October 2027 at 3:00


class States(SimpleTestCase):
    def test_the_line_from_nothing_to_sent(self):
        ready = {"film": "ready"}
        told = [
            ({}, "none"),
            ({"film": "making"}, "making"),
            ({"film": "failed"}, "failed"),
            (ready, "exported"),
            (ready | {"verdict": "open"}, "review"),
            (ready | {"verdict": "changes"}, "changes"),
            (ready | {"verdict": "approved"}, "approved"),
            (ready | {"verdict": "approved", "current": False}, "changed"),
            (ready | {"verdict": "approved", "sendings": ("planned",)}, "planned"),
            (ready | {"current": False, "sendings": ("sent",)}, "sent"),
            (ready | {"sendings": ("sent", "waiting")}, "planned"),
            (ready | {"sendings": ("sent", "failed")}, "asks"),
        ]
        for facts, state in told:
            self.assertEqual(state_of(Known(**facts)), state, facts)

    def test_whatever_is_known_has_a_state_and_what_needs_somebody_is_never_hidden(self):
        for film, current, verdict, one in product(
            ("", "making", "failed", "ready"), (True, False), ("", "open", "changes", "approved"), SENDINGS
        ):
            state = state_of(Known(film=film, current=current, verdict=verdict, sendings=(one, "sent")))
            self.assertIn(state, STATES)
            self.assertEqual(state == "asks", one in ASKS)


class Times(SimpleTestCase):
    def test_a_clock_on_the_wall_somewhere(self):
        self.assertEqual(moment(datetime(2027, 1, 10, 9), ZONE), datetime(2027, 1, 10, 8, tzinfo=UTC))
        self.assertEqual(moment(datetime(2027, 7, 10, 9), ZONE), datetime(2027, 7, 10, 7, tzinfo=UTC))

    def test_a_time_that_clocks_never_show_is_told(self):
        with self.assertRaisesRegex(CoreError, "no 02:30 on 28 March 2027"):
            moment(datetime(2027, 3, 28, 2, 30), ZONE)
        self.assertEqual(moment(datetime(2027, 3, 28, 3, 0), ZONE), datetime(2027, 3, 28, 1, tzinfo=UTC))

    def test_a_time_that_they_show_twice_is_the_first(self):
        twice = datetime(2027, 10, 31, 2, 30)
        self.assertTrue(is_twice(twice, ZONE))
        self.assertFalse(is_twice(datetime(2027, 10, 31, 3, 30), ZONE))
        self.assertFalse(is_twice(datetime(2027, 3, 28, 2, 30), ZONE))
        self.assertEqual(moment(twice, ZONE), datetime(2027, 10, 31, 0, 30, tzinfo=UTC))

    def test_what_is_past_or_far_ahead_or_nowhere_is_refused(self):
        now = datetime(2027, 1, 1, tzinfo=UTC)
        for ahead in (timedelta(days=-400), timedelta(0), timedelta(seconds=59), timedelta(days=800)):
            with self.assertRaises(CoreError):
                in_time(now + ahead, now)
        in_time(now + timedelta(seconds=60), now)
        with self.assertRaisesRegex(CoreError, "time zone"):
            moment(datetime(2027, 1, 1), "../../etc/passwd")

    def test_late_is_what_nobody_was_there_to_send(self):
        at = datetime(2027, 1, 1, tzinfo=UTC)
        self.assertFalse(is_late(at, at + timedelta(minutes=10)))
        self.assertTrue(is_late(at, at + timedelta(minutes=10, seconds=1)))

    @given(st.datetimes(datetime(2025, 1, 1), datetime(2035, 1, 1)), st.sampled_from(zones()))
    def test_a_moment_shows_the_time_that_was_meant_or_is_refused(self, local, zone):
        local = local.replace(second=0, microsecond=0)
        try:
            at = moment(local, zone)
        except CoreError:
            hour = timedelta(hours=1)
            self.assertNotEqual(*(moment(local + n * hour, zone) - local.replace(tzinfo=UTC) for n in (-2, 2)))
            return
        self.assertEqual(at.astimezone(ZoneInfo(zone)).replace(tzinfo=None), local)

    def test_a_series_keeps_the_time_of_day_over_a_change_of_clocks(self):
        first = datetime(2027, 3, 25, 2, 30)  # a Thursday
        for step, days in (("day", [25, 26, 27, 28, 29]), ("weekday", [25, 26, 29, 30, 31])):
            shown = [each.astimezone(ZoneInfo(ZONE)) for each in series(first, ZONE, step, 5)]
            self.assertEqual([each.day for each in shown], days, step)
            self.assertEqual([each.hour for each in shown], [3 if each.day == 28 else 2 for each in shown])
        hours = series(datetime(2027, 3, 28, 1, 30), ZONE, "hour", 3)
        self.assertEqual([each.astimezone(ZoneInfo(ZONE)).hour for each in hours], [1, 3, 4])
        weeks = series(first, ZONE, "week", 2)
        self.assertEqual(weeks[1] - weeks[0], timedelta(days=7, hours=-1))

    def test_every_step_gives_as_many_as_are_asked_for_in_order(self):
        for step, count in product(STEPS, (1, 2, 20)):
            found = series(datetime(2027, 10, 29, 2, 30), ZONE, step, count)
            self.assertEqual((len(found), found), (count, sorted(found)))


class Trying(SimpleTestCase):
    def test_waits_grow_and_end(self):
        waits = [wait_after(tries) for tries in range(1, len(WAITS) + 2)]
        self.assertIsNone(waits.pop())
        self.assertEqual(waits, sorted(set(waits)))

    def test_an_outlet_that_asks_for_longer_gets_it_up_to_a_day(self):
        self.assertEqual(wait_after(1, 120), 120)
        self.assertEqual(wait_after(2, 5), WAITS[1])
        self.assertEqual(wait_after(1, 1e9), 86_400)


class Fitting(SimpleTestCase):
    def test_everything_that_an_account_would_not_take_is_told(self):
        post = Post(first_line="A clock", hashtags=("#mend", "#clock", "#mend"))
        made = outgoing("Clocks", post, ["Music by A. Harbour"], "mp4", 61.0, (1080, 1920), 5_000_000)
        self.assertEqual((made.text, made.hashtags), ("A clock\n\nMusic by A. Harbour\n\n#mend #clock", 2))
        roomy = Limits(longest=90, bytes=None, letters=2_200, hashtags=8, kinds=("mp4",))
        self.assertEqual(unfit(made, roomy), [])
        narrow = Limits(longest=60, bytes=4_000_000, letters=10, hashtags=1, kinds=("webm",))
        self.assertEqual(len(unfit(made, narrow)), 5)
        for name, value in (("longest", 61.0), ("bytes", 5_000_000), ("letters", len(made.text)), ("hashtags", 2)):
            self.assertEqual(unfit(made, Limits(**(roomy.model_dump() | {name: value}))), [], name)
