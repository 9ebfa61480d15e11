"""Recipes over the API: frozen, told apart, out as files and in again."""

from __future__ import annotations

import json

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext

from server.pieces.models import Piece
from server.recipes.models import RecipeRecord
from tests.server.base import ApiTestCase


class RecipeTest(ApiTestCase):
    def keep(self) -> int:
        response = self.change("recipes", method="post")
        self.assertEqual(response.status_code, 201, response.content[:300])
        return response.json()["latest_recipe"]

    def import_file(self, data: bytes):
        return self.client.post("/api/v1/pieces/import/", {"recipe": SimpleUploadedFile("r.json", data)})

    def test_versions_are_frozen_and_say_what_changed(self):
        self.assertEqual(self.keep(), 1)
        first = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        self.assertEqual(self.keep(), 2)
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content, first)
        lines = self.send("get", f"pieces/{self.piece.pk}/recipes/").json()
        self.assertEqual([line["number"] for line in lines], [1, 2])
        self.assertEqual(lines[1]["changes"], ["Light: from 10:30, 40° high became from 3:00, 20° high."])

    def test_a_list_of_many_versions_takes_the_queries_of_a_list_of_one(self):
        self.keep()
        path = f"pieces/{self.piece.pk}/recipes/"
        with CaptureQueriesContext(connection) as one:
            self.send("get", path)
        kept = RecipeRecord.objects.get()
        for number in range(2, 42):
            kept.pk, kept.number, kept.previous, kept._state.adding = None, number, number - 1, True
            kept.save()
        with self.assertNumQueries(len(one)):
            self.assertEqual(len(self.send("get", path).json()), 41)

    def test_a_version_shows_its_own_sheet_plan_and_picture(self):
        self.keep()
        base = f"pieces/{self.piece.pk}"
        lit = self.send("get", f"{base}/picture/").content
        self.change("lamp", {"azimuth_deg": 200, "elevation_deg": 60})
        self.change("stamp", {"title": "Another title"})
        self.assertEqual(self.send("get", f"{base}/recipes/1/sheet/").json()["stamp"]["title"], "Ball and box")
        self.assertEqual(self.send("get", f"{base}/recipes/1/picture/").content, lit)
        self.assertNotEqual(self.send("get", f"{base}/picture/").content, lit)
        passes = self.send("get", f"{base}/recipes/1/plan/").json()["passes"]
        frozen = json.loads(self.send("get", f"{base}/recipes/1/").content)["plan"]["passes"]
        self.assertEqual([one["swatch"]["code"] for one in passes], [one["swatch"] for one in frozen])

    def test_changed_since_is_told_and_taken_back_by_undo(self):
        self.keep()
        self.assertFalse(self.send("get", f"pieces/{self.piece.pk}/").json()["changed_since_recipe"])
        self.assertTrue(self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20}).json()["changed_since_recipe"])
        self.assertFalse(self.change("undo", method="post").json()["changed_since_recipe"])

    def test_export_delete_import_gives_the_same_bytes_again(self):
        self.keep()
        self.change("join", {"labels": [2, 3]}, "post")
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/2/").content
        self.send("delete", f"pieces/{self.piece.pk}/")
        response = self.import_file(data)
        self.assertEqual(response.status_code, 201, response.content[:300])
        again = response.json()
        self.assertEqual(self.send("get", f"pieces/{again['id']}/recipes/2/").content, data)
        self.assertEqual(len(again["regions"]["list"]), 2)
        self.assertFalse(again["changed_since_recipe"])

    def test_another_account_can_take_the_file_in_and_work_on(self):
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        self.client.force_login(self.ben)
        piece = self.import_file(data).json()
        self.assertEqual(piece["colours"]["drawer"], self.ben.drawers.get(medium="marker").pk)
        self.assertEqual(self.send("get", f"pieces/{piece['id']}/plan/").status_code, 200)
        ramps = self.send("post", f"pieces/{piece['id']}/ramp-proposals/", {"wish_hex": "#4060c0", "shades": 2})
        self.assertEqual(ramps.status_code, 200)

    def test_wrong_recipe_files_are_refused_and_leave_nothing_behind(self):
        self.keep()
        data = self.send("get", f"pieces/{self.piece.pk}/recipes/1/").content
        before = Piece.objects.count(), RecipeRecord.objects.count()

        def damaged(change) -> bytes:
            plain = json.loads(data)
            change(plain)
            return json.dumps(plain).encode()

        for bad, words in (
            (b"", "not JSON"),
            (damaged(lambda plain: plain.update(format_version=7)), "format version 7"),
            (damaged(lambda plain: plain.pop("plan")), "plan"),
            (damaged(lambda plain: plain["sheet"]["stamp"].update(title=7)), "sheet / stamp / title"),
            (
                damaged(lambda plain: plain["sheet"]["regions"]["settings"][0]["coats"][0].update(ramp=["ghost-1"])),
                "ghost-1",
            ),
            (damaged(lambda plain: plain.update(files={})), "without its picture"),
            (damaged(lambda plain: plain["impression"].update(width_px=9)), "not of the size"),
            (damaged(lambda plain: plain["sheet"]["regions"]["settings"].pop()), "region"),
        ):
            with self.subTest(words=words):
                self.assertProblem(self.import_file(bad), 422, "recipe_unreadable", words)
        self.assertEqual((Piece.objects.count(), RecipeRecord.objects.count()), before)
