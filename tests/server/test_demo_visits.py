"""Whoever opens the demo works in a copy of it, which nobody else sees and which goes again."""

from __future__ import annotations

import json
from datetime import timedelta
from importlib import import_module
from unittest.mock import patch

from django.apps import apps
from django.contrib.auth import get_user_model
from django.db import OperationalError
from django.test import Client, TestCase
from django.utils import timezone

from demo.management.commands.load_demo import PASSWORD
from demo.visits import STEPS
from server.accounts import throttle, visits
from server.accounts.models import DemoAccount, DemoVisit
from server.backup.tidy import tidy
from server.drawers.services import give_starter_drawers
from server.pieces.models import Piece
from server.pieces.quota import kept_bytes
from server.recipes.services import keep_recipe
from tests.builders import line_drawing
from tests.server.builders import coloured, make_piece, make_user
from tests.server.contract import CheckedClient


class DemoVisitTest(TestCase):
    client_class = CheckedClient

    @classmethod
    def setUpTestData(cls):
        user = get_user_model().objects.create_user(username=visits.DEMO_USERNAME, password=PASSWORD)
        give_starter_drawers(owner=user)
        cls.demo = DemoAccount.objects.create(user=user)
        cls.first = coloured(make_piece(user))
        keep_recipe(actor=user, piece=cls.first, version=cls.first.version)

    def setUp(self):
        throttle.counts().clear()

    def enter(self, client: Client | None = None) -> Client:
        client = client or CheckedClient()
        answer = client.post("/api/v1/session/demo/", "{}", content_type="application/json")
        self.assertEqual((answer.status_code, answer.json()["username"]), (200, visits.DEMO_USERNAME))
        return client

    @staticmethod
    def shelf(client: Client) -> list[dict]:
        return client.get("/api/v1/pieces/").json()["results"]

    def take_off_the_shelf(self, client: Client, piece: dict):
        found = Piece.objects.get(pk=piece["id"])
        answer = client.delete(f"/api/v1/pieces/{found.pk}/", headers={"If-Match": f'"{found.version}"'})
        self.assertEqual(answer.status_code, 204, answer.content)

    def test_two_visitors_do_not_find_what_the_other_did(self):
        one, other = self.enter(), self.enter()
        self.take_off_the_shelf(one, self.shelf(one)[0])
        self.assertEqual(self.shelf(one), [])
        (seen,) = self.shelf(other)
        self.assertEqual((seen["title"], seen["latest_recipe"]), ("Ball and box", 1))
        self.assertNotEqual(seen["id"], self.first.pk)
        self.assertEqual(other.get(f"/api/v1/pieces/{self.first.pk}/").status_code, 404)
        self.assertEqual(len(self.shelf(self.enter())), 1)

    def test_a_copy_is_the_demo_itself(self):
        """Its sheets name the copy's own drawers, and its pictures are the same files."""
        client = self.enter()
        copy = Piece.objects.get(pk=self.shelf(client)[0]["id"])
        drawer = copy.owner.drawers.get(medium="marker")
        self.assertEqual(copy.sheet().colours.drawers, (str(drawer.pk),))
        self.assertEqual(copy.impression_sha256, self.first.impression_sha256)
        self.assertEqual(copy.sheet().colours.swatches, self.first.sheet().colours.swatches)
        self.assertEqual(kept_bytes(copy.owner), kept_bytes(self.demo.user))
        self.assertEqual(client.get(f"/api/v1/pieces/{copy.pk}/picture/").status_code, 200)

    def test_the_demos_own_name_and_password_open_a_copy_too(self):
        body = {"username": visits.DEMO_USERNAME, "password": PASSWORD}
        self.client.post("/api/v1/session/", json.dumps(body), content_type="application/json")
        self.take_off_the_shelf(self.client, self.shelf(self.client)[0])
        self.assertTrue(Piece.objects.filter(pk=self.first.pk).exists())

    def test_a_device_comes_back_to_its_copy_after_signing_out(self):
        client = self.enter()
        self.take_off_the_shelf(client, self.shelf(client)[0])
        client.delete("/api/v1/session/")
        self.assertEqual(self.shelf(self.enter(client)), [])
        self.assertEqual(DemoVisit.objects.count(), 1)

    def test_a_copy_begun_early_gets_the_rest_and_keeps_what_its_visitor_did(self):
        self.demo.to_come = STEPS - 1
        self.demo.save()
        second = make_piece(self.demo.user, "Still being made", line_drawing()[::-1].copy())
        client = self.enter()
        told = client.get("/api/v1/session/").json()
        self.assertEqual((told["demo_to_come"], len(self.shelf(client))), (STEPS - 1, 1))
        self.take_off_the_shelf(client, self.shelf(client)[0])

        coloured(second)
        self.demo.to_come = 0
        self.demo.save()
        self.assertEqual(client.get("/api/v1/session/").json()["demo_to_come"], 0)
        self.assertEqual([piece["title"] for piece in self.shelf(client)], ["Still being made"])
        client.get("/api/v1/session/")
        self.assertEqual(len(self.shelf(client)), 1)

    def test_a_copy_goes_a_day_after_its_last_use(self):
        kept, left = self.enter(), self.enter()
        late = timezone.now() + timedelta(hours=23)
        with patch("django.utils.timezone.now", return_value=late):
            ends = kept.get("/api/v1/session/").json()["demo_ends_at"]
        self.assertEqual(ends, (late + visits.KEPT).isoformat().replace("+00:00", "Z"))
        with patch("django.utils.timezone.now", return_value=late + timedelta(hours=2)):
            self.assertEqual(tidy(by_the_server=False).visits, 1)
        self.assertEqual(len(self.shelf(kept)), 1)
        self.assertEqual(left.get("/api/v1/pieces/").status_code, 401)
        self.assertTrue(Piece.objects.filter(pk=self.first.pk).exists())

    def test_a_full_disk_keeps_no_visitor_from_looking(self):
        client = self.enter()
        later = timezone.now() + 2 * visits.NOTED_AGAIN
        with (
            patch("django.utils.timezone.now", return_value=later),
            patch.object(DemoVisit, "save", side_effect=OperationalError("database or disk is full")),
        ):
            self.assertEqual(client.get("/api/v1/session/").status_code, 200)

    def test_who_sat_in_the_demos_own_account_sits_there_no_more(self):
        client = Client()
        client.force_login(self.demo.user)
        self.assertEqual(client.get("/api/v1/pieces/").status_code, 200)
        import_module("server.accounts.migrations.0003_demo_visits").end_sessions_of_the_demo(apps, None)
        self.assertEqual(client.get("/api/v1/pieces/").status_code, 401)
        self.assertTrue(Client().login(username=visits.DEMO_USERNAME, password=PASSWORD))

    def test_copies_for_one_address_are_counted(self):
        with patch.object(throttle, "VISITS", ("visited", 1)):
            client = self.enter()
            answer = self.client.post("/api/v1/session/demo/", "{}", content_type="application/json")
            self.assertEqual(answer.status_code, 429)
            self.enter(client)

    def test_an_account_has_no_end_and_the_demos_names_are_taken(self):
        make_user("ana")
        self.client.login(username="ana", password="ana-has-a-long-word")
        self.assertIsNone(self.client.get("/api/v1/session/").json()["demo_ends_at"])
        body = {"username": f"{visits.DEMO_USERNAME}-1", "password": "another-quiet-word"}
        answer = self.client.post("/api/v1/accounts/", json.dumps(body), content_type="application/json")
        self.assertIn("taken", answer.json()["detail"])
