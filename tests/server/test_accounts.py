"""Signing in and out, new accounts, the demo, forged requests."""

from __future__ import annotations

import json

from django.test import Client, TestCase

from paleta.media import MEDIA
from server.accounts.services import DEMO_USERNAME
from tests.builders import make_user


class SessionTest(TestCase):
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
            ("accounts/", {"username": "dora", "password": "short"}, "#/password"),
            ("accounts/", {"username": "a b", "password": "a-quiet-lantern"}, "#/username"),
        ):
            with self.subTest(body=body):
                response = self.post(path, **body)
                self.assertEqual(response.status_code, 422)
                self.assertEqual(response.json()["errors"][0]["pointer"], pointer)

    def test_the_demo_opens_without_a_password_only_when_it_is_loaded(self):
        self.assertEqual(self.post("session/demo/").status_code, 409)
        make_user(DEMO_USERNAME)
        self.assertEqual(self.post("session/demo/").json()["username"], DEMO_USERNAME)
        self.assertEqual(self.client.delete("/api/v1/session/").status_code, 204)
        self.assertIsNone(self.client.get("/api/v1/session/").json()["username"])

    def test_a_forged_request_from_elsewhere_is_refused(self):
        make_user("ana")
        client = Client(enforce_csrf_checks=True)
        client.login(username="ana", password="ana-has-a-long-word")
        self.assertEqual(client.post("/api/v1/pieces/", {}).status_code, 403)

    def test_an_unknown_address_is_a_problem_document_and_pages_carry_a_policy(self):
        response = self.client.get("/api/v1/nowhere/")
        self.assertEqual((response.status_code, response["Content-Type"]), (404, "application/problem+json"))
        self.assertIn("default-src 'self'", self.client.get("/")["Content-Security-Policy"])
