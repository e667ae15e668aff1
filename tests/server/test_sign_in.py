"""Signing in: whoever guesses is slowed down, whoever knows the password gets in."""

from unittest import mock

from django.core.cache import cache
from django.test import Client, RequestFactory, SimpleTestCase, override_settings

from hovvet.server.accounts import throttle
from hovvet.server.accounts.throttle import address_of
from tests.server.base import ServerCase


class Addresses(SimpleTestCase):
    def test_the_header_is_believed_from_own_proxies_only(self):
        request = RequestFactory().get("/", headers={"X-Forwarded-For": "6.6.6.6, 10.0.0.7"}, REMOTE_ADDR="10.0.0.1")
        for proxies, address in ((0, "10.0.0.1"), (1, "10.0.0.7"), (2, "6.6.6.6"), (3, "10.0.0.1")):
            with override_settings(PROXIES=proxies):
                self.assertEqual(address_of(request), address)


class Throttling(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        self.addCleanup(cache.clear)
        self.now = 1_000_000.0
        clock = mock.patch("hovvet.server.accounts.throttle.time.time", lambda: self.now)
        clock.start()
        self.addCleanup(clock.stop)

    def attempt(self, password: str, name: str = "maren", **headers: str):
        return Client().post(
            "/api/session", {"username": name, "password": password}, content_type="application/json", headers=headers
        )

    def test_a_changing_header_does_not_help(self):
        for n in range(5):
            self.assertEqual(self.attempt("no", **{"X-Forwarded-For": f"9.9.9.{n}"}).status_code, 401)
        stopped = self.attempt("mend-it-well", **{"X-Forwarded-For": "8.8.8.8"})
        self.assertEqual(stopped.status_code, 429, "one account is tried five times, from wherever")
        self.assertIn("Wait 5 s", stopped.json()["detail"])
        self.assertEqual(stopped["Retry-After"], "5")

    def test_the_right_password_gets_in_after_the_pause_that_is_shown(self):
        for _ in range(5):
            self.attempt("no")
        self.now += 5
        self.assertEqual(self.attempt("no").status_code, 401)
        self.assertIn("Wait 10 s", self.attempt("mend-it-well").json()["detail"], "each pause is twice the one before")
        self.now += 10
        self.assertEqual(self.attempt("mend-it-well").status_code, 200)
        self.assertEqual(self.attempt("no").status_code, 401, "then the count begins anew")
        self.assertEqual(self.attempt("mend-it-well").status_code, 200)

    def test_one_address_cannot_go_through_many_names(self):
        for n in range(20):
            self.assertEqual(self.attempt("no", f"guess{n}").status_code, 401)
        self.assertEqual(self.attempt("no", "guess-more").status_code, 429)

    def test_at_most_two_passwords_are_checked_at_once(self):
        taken = [throttle._line._turns.acquire(blocking=False) for _ in range(3)]
        self.assertEqual(taken, [True, True, False])
        with mock.patch.object(throttle._line, "_patience", 0.01):
            self.assertEqual(self.attempt("mend-it-well").status_code, 503)
        throttle._line._turns.release()
        self.assertEqual(self.attempt("mend-it-well").status_code, 200)
        throttle._line._turns.release()

    def test_no_more_than_two_wait_for_their_turn(self):
        taken = [throttle._line._places.acquire(blocking=False) for _ in range(5)]
        self.assertEqual(taken, [True] * 4 + [False])
        refused = self.attempt("mend-it-well")
        self.assertEqual((refused.status_code, refused["Retry-After"]), (503, "5"))
        for _ in range(4):
            throttle._line._places.release()
        self.assertEqual(self.attempt("mend-it-well").status_code, 200)

    def test_the_token_is_asked_for_before_anything_is_read(self):
        answer = Client(enforce_csrf_checks=True).post("/api/session", "{" * 9, content_type="application/json")
        self.assertEqual(answer.status_code, 403)


class Passwords(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        self.addCleanup(cache.clear)
        self.client.login(username="maren", password="mend-it-well")

    def test_changing_ones_own(self):
        change = {"old": "mend-it-well", "new": "a-spring-and-a-key"}
        elsewhere = Client()
        elsewhere.login(username="maren", password="mend-it-well")
        self.assertEqual(self.post("/api/session/password", change).status_code, 200)
        self.assertEqual(self.client.get("/api/recordings").status_code, 200, "this browser stays signed in")
        self.assertEqual(elsewhere.get("/api/recordings").status_code, 401)
        self.assertTrue(Client().login(username="maren", password="a-spring-and-a-key"))

    def test_what_is_refused(self):
        for change, status in (
            ({"old": "wrong", "new": "a-spring-and-a-key"}, 403),
            ({"old": "mend-it-well", "new": "short"}, 422),
            ({"old": "mend-it-well", "new": "password123"}, 422),
        ):
            self.assertEqual(self.post("/api/session/password", change).status_code, status)
        self.assertTrue(Client().login(username="maren", password="mend-it-well"))
