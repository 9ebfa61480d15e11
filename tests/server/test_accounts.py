"""Signing in and out, new accounts, the demo, forged requests."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from unittest.mock import patch

from django.test import Client, TestCase

from paleta.media import MEDIA
from server.accounts import throttle
from server.accounts.models import DemoAccount
from server.accounts.services import mixes_scripts
from server.accounts.visits import DEMO_USERNAME
from tests.server.builders import make_user
from tests.server.contract import CheckedClient


class SessionTest(TestCase):
    client_class = CheckedClient

    def setUp(self):
        throttle.counts().clear()

    def post(self, path: str, **body):
        return self.client.post(f"/api/v1/{path}", data=json.dumps(body), content_type="application/json")

    def test_a_new_account_has_drawers_and_is_signed_in(self):
        response = self.post("accounts/", username="cleo", password="a-quiet-lantern")
        self.assertEqual(response.status_code, 201)
        self.assertEqual(self.client.get("/api/v1/session/").json()["username"], "cleo")
        drawers = self.client.get("/api/v1/drawers/").json()["results"]
        self.assertEqual({drawer["medium"] for drawer in drawers}, set(MEDIA))

    def test_wrong_words_taken_names_and_weak_passwords_are_said_where_they_belong(self):
        make_user("ana")
        for path, body, pointer in (
            ("session/", {"username": "ana", "password": "wrong"}, "#/password"),
            ("accounts/", {"username": "Ana", "password": "a-quiet-lantern"}, "#/username"),
            ("accounts/", {"username": "ａｎａ", "password": "a-quiet-lantern"}, "#/username"),
            ("accounts/", {"username": "dora", "password": "short"}, "#/password"),
            ("accounts/", {"username": "dora", "password": "        "}, "#/password"),
            ("accounts/", {"username": "dora", "password": "abababababab"}, "#/password"),
            ("accounts/", {"username": "doradoradora", "password": "DoraDoraDora"}, "#/password"),
            ("accounts/", {"username": "a b", "password": "a-quiet-lantern"}, "#/username"),
        ):
            with self.subTest(body=body):
                response = self.post(path, **body)
                self.assertEqual(response.status_code, 422)
                self.assertEqual(response.json()["errors"][0]["pointer"], pointer)

    def test_the_demo_opens_without_a_password_only_when_it_is_loaded(self):
        self.assertEqual(self.post("session/demo/").status_code, 409)
        DemoAccount.objects.create(user=make_user(DEMO_USERNAME))
        self.assertEqual(self.post("session/demo/").json()["username"], DEMO_USERNAME)
        self.assertEqual(self.client.delete("/api/v1/session/").status_code, 204)
        self.assertIsNone(self.client.get("/api/v1/session/").json()["username"])

    def test_an_account_of_the_demos_name_is_never_opened_to_strangers(self):
        for name in (DEMO_USERNAME, DEMO_USERNAME.upper(), "ｌａｎｔｅｒｎ"):
            with self.subTest(name=name):
                response = self.post("accounts/", username=name, password="a-quiet-lantern")
                self.assertEqual(response.status_code, 422)
                self.assertIn("taken", response.json()["detail"])
        make_user(DEMO_USERNAME)
        self.assertFalse(self.client.get("/api/v1/session/").json()["demo_available"])
        self.assertEqual(self.post("session/demo/").status_code, 409)

    def test_a_name_that_only_looks_like_another_is_refused(self):
        for name in ("l\u0430ntern", "lant\u0435rn", "\u03bfwl"):  # a Cyrillic a and e, a Greek o
            with self.subTest(name=name):
                answer = self.post("accounts/", username=name, password="a-quiet-lantern")
                self.assertEqual(answer.status_code, 422)
                self.assertIn("one script", answer.json()["detail"])
        for name in ("\u0430\u043d\u043d\u0430", "ana-2", "\u82b1\u5b50", "\u82b1\u3053"):
            with self.subTest(name=name):
                self.assertFalse(mixes_scripts(name))

    def test_what_anybody_may_send_is_small(self):
        deep = "[" * 15_000 + "]" * 15_000
        answer = self.client.post("/api/v1/session/", deep, content_type="application/json")
        self.assertEqual(answer.status_code, 413)
        self.assertIn("0.02 MB", answer.json()["detail"])

    def test_a_forged_request_from_elsewhere_is_refused_for_visitors_too(self):
        make_user("ana")
        DemoAccount.objects.create(user=make_user(DEMO_USERNAME))
        client = Client(enforce_csrf_checks=True)
        known = {"username": "ana", "password": "ana-has-a-long-word"}
        for path, body in (("session/", known), ("accounts/", known), ("session/demo/", {})):
            with self.subTest(path=path):
                response = client.post(f"/api/v1/{path}", json.dumps(body), content_type="application/json")
                self.assertEqual(response.status_code, 403)
        client.login(**known)
        self.assertEqual(client.post("/api/v1/pieces/", {}).status_code, 403)

    def test_the_pages_own_request_carries_the_token_and_is_let_in(self):
        make_user("ana")
        client = Client(enforce_csrf_checks=True)
        client.get("/api/v1/session/")
        body = json.dumps({"username": "ana", "password": "ana-has-a-long-word"})
        token = client.cookies["csrftoken"].value
        sent = {"content_type": "application/json", "headers": {"X-CSRFToken": token}}
        self.assertEqual(client.post("/api/v1/session/", body, **sent).status_code, 200)
        foreign = {**sent, "headers": {"X-CSRFToken": token, "Origin": "https://elsewhere.example"}}
        self.assertEqual(client.post("/api/v1/session/demo/", "{}", **foreign).status_code, 403)

    def test_what_is_no_possible_json_is_refused_before_anybody_is_signed_in(self):
        for body in (
            b"[" * 10_000,
            b'{"username": "\\ud800", "password": "x"}',
            b'{"username": ' + b"9" * 5000 + b', "password": "x"}',
            b'{"username": NaN, "password": "x"}',
            b"\xff\xfe",
            b"",
        ):
            with self.subTest(body=body[:30]):
                response = self.client.post("/api/v1/session/", body, content_type="application/json")
                self.assertIn(response.status_code, (400, 422))
                self.assertEqual(response["Content-Type"], "application/problem+json")

    def guess(self, name: str, password: str = "wrong", address: str = "127.0.0.1", client: Client | None = None):
        return (client or Client()).post(
            "/api/v1/session/",
            json.dumps({"username": name, "password": password}),
            content_type="application/json",
            REMOTE_ADDR=address,
        )

    def test_each_further_guess_waits_twice_as_long_as_the_one_before(self):
        make_user("ana")
        with patch("server.accounts.throttle.time.time") as clock:
            clock.return_value = now = 1e9
            for _ in range(throttle.FREE_GUESSES):
                self.assertEqual(self.guess("ana").status_code, 422)
            waits = []
            for _ in range(12):
                answer = self.guess("Ana", "ana-has-a-long-word")
                self.assertEqual((answer.status_code, answer.json()["type"]), (429, "/problems/throttled"))
                waits.append(int(answer["Retry-After"]))
                clock.return_value = now = now + waits[-1] + 1
                self.assertEqual(self.guess("ana").status_code, 422)
            self.assertEqual(waits, sorted(waits))
            self.assertGreater(waits[5], 1.7 * waits[4])  # rounded up to whole seconds
            self.assertLessEqual(waits[-1], throttle.LONGEST_S + 1)
            clock.return_value = now + throttle.LONGEST_S + 2
            self.assertEqual(self.guess("ana", "ana-has-a-long-word").status_code, 200)

    def test_nobody_locks_out_somebody_else(self):
        make_user("ana")
        own = Client()
        self.assertEqual(self.guess("ana", "ana-has-a-long-word", client=own).status_code, 200)
        for _ in range(throttle.FREE_GUESSES + 1):
            last = self.guess("ana")
        self.assertEqual(last.status_code, 429)
        # From elsewhere, and from the same address by the device that signed in before.
        self.assertEqual(self.guess("ana", "ana-has-a-long-word", "127.0.0.2").status_code, 200)
        own.delete("/api/v1/session/")
        self.assertEqual(self.guess("ana", "ana-has-a-long-word", client=own).status_code, 200)

    def test_a_known_device_may_not_guess_for_ever_either(self):
        make_user("ana")
        own = Client()
        self.guess("ana", "ana-has-a-long-word", client=own)
        statuses = [self.guess("ana", client=own).status_code for _ in range(throttle.FREE_GUESSES + 2)]
        self.assertEqual(statuses[-1], 429)
        forged = Client()
        forged.cookies[throttle.DEVICE_COOKIE] = "a-made-up-value"
        self.assertEqual(self.guess("ana", client=forged).status_code, 422)

    def test_of_many_guesses_at_one_moment_only_the_free_ones_are_looked_at(self):
        class Request:
            META = {"REMOTE_ADDR": "127.0.0.1"}
            COOKIES: dict[str, str] = {}

        def one(_: int) -> bool:
            try:
                throttle.take_guess(Request(), "ana")
            except throttle.GuessedTooOften:
                return False
            return True

        with ThreadPoolExecutor(24) as hands:
            looked_at = sum(hands.map(one, range(24)))
        self.assertEqual(looked_at, throttle.FREE_GUESSES)

    def test_guessing_many_names_from_one_address_is_slowed(self):
        for number in range(throttle.FREE_FROM_ADDRESS):
            self.guess(f"name{number}")
        self.assertEqual(self.guess("another").status_code, 429)

    def test_accounts_cannot_be_opened_by_the_dozen(self):
        for number in range(throttle.OPENED[1]):
            self.assertEqual(
                self.post("accounts/", username=f"cleo{number}", password="a-quiet-lantern").status_code, 201
            )
        self.assertEqual(self.post("accounts/", username="cleo", password="a-quiet-lantern").status_code, 429)

    def test_a_password_is_changed_and_other_sessions_end(self):
        make_user("ana")
        elsewhere = Client()
        for client in (self.client, elsewhere):
            client.login(username="ana", password="ana-has-a-long-word")

        def change(old: str, new: str):
            body = json.dumps({"old": old, "new": new})
            return self.client.put("/api/v1/accounts/password/", body, content_type="application/json")

        wrong = change("guessed", "another-quiet-word")
        self.assertEqual((wrong.status_code, wrong.json()["errors"][0]["pointer"]), (422, "#/old"))
        self.assertEqual(change("ana-has-a-long-word", "short").json()["errors"][0]["pointer"], "#/new")
        self.assertEqual(change("ana-has-a-long-word", "another-quiet-word").status_code, 204)
        self.assertEqual(self.client.get("/api/v1/pieces/").status_code, 200)
        self.assertEqual(elsewhere.get("/api/v1/pieces/").status_code, 401)
        self.assertTrue(Client().login(username="ana", password="another-quiet-word"))

    def test_sign_ins_are_logged_without_passwords(self):
        make_user("ana")
        with self.assertLogs("server.accounts", "INFO") as said:
            self.post("session/", username="ana", password="guessed-wrongly")
            self.post("session/", username="ana", password="ana-has-a-long-word")
        self.assertEqual([line.split(":", 2)[2] for line in said.output],
                         ["Wrong password for 'ana' from 127.0.0.1", "'ana' signed in from 127.0.0.1"])  # fmt: skip
        self.assertNotIn("guessed", "".join(said.output))
        self.assertNotIn("ana-has", "".join(said.output))

    def test_the_demos_password_stays(self):
        user = make_user(DEMO_USERNAME)
        DemoAccount.objects.create(user=user)
        self.client.force_login(user)
        body = json.dumps({"old": f"{DEMO_USERNAME}-has-a-long-word", "new": "another-quiet-word"})
        response = self.client.put("/api/v1/accounts/password/", body, content_type="application/json")
        self.assertEqual(response.status_code, 409)

    def test_an_unknown_address_is_a_problem_document_and_pages_carry_a_policy(self):
        response = self.client.get("/api/v1/nowhere/")
        self.assertEqual((response.status_code, response["Content-Type"]), (404, "application/problem+json"))
        self.assertIn("default-src 'self'", self.client.get("/")["Content-Security-Policy"])
