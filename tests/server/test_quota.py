"""How much one account may keep: told in a sentence, and nothing is stored beyond it."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from server.backup import services as backup
from server.drawers.models import Drawer
from server.pieces.models import GoTo, OwnSchool, Piece
from server.recipes.models import RecipeRecord
from server.runs.models import Run
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase


class QuotaTest(ApiTestCase):
    def assertFull(self, response, words: str):
        self.assertProblem(response, 409, "full", words)

    def test_pieces_by_number_and_by_their_bytes(self):
        for limit in ({"MOST_PIECES": 1}, {"MOST_ACCOUNT_BYTES": self.piece.stored_bytes}):
            with self.subTest(limit=limit), self.settings(**limit):
                self.assertFull(self.upload(as_file(line_drawing(), dpi=(150, 150))), "An account holds up to")
                self.assertEqual(Piece.objects.count(), 1)
        with self.settings(MOST_PIECES=2):
            self.assertEqual(self.upload(as_file(line_drawing(), dpi=(150, 150))).status_code, 201)

    def test_anothers_pieces_do_not_count(self):
        self.client.force_login(self.ben)
        with self.settings(MOST_PIECES=1):
            self.assertEqual(self.upload(as_file(line_drawing(), dpi=(150, 150))).status_code, 201)

    def test_drawers(self):
        with patch("server.drawers.services.MOST_DRAWERS", self.ana.drawers.count()):
            response = self.send("post", "drawers/", {"name": "One more", "medium": "pencil"})
            self.assertFull(response, "drawers")
        self.assertFalse(Drawer.objects.filter(name="One more").exists())

    def test_swatches_of_a_drawer(self):
        drawer = self.ana.drawers.get(medium="pencil")
        with patch("server.drawers.services.MOST_SWATCHES", drawer.swatches.count()):
            body = {"name": "New", "code": "new", "hex": "#aa5544"}
            response = self.send("post", f"drawers/{drawer.pk}/swatches/", body, drawer.version)
            self.assertProblem(response, 422, "invalid_fields", "holds up to")
            table = self.send("post", f"drawers/{drawer.pk}/table/", {"text": "new\tNew\t#aa5544"}, drawer.version)
            self.assertProblem(table, 422, "invalid_fields", "holds up to")

    def test_kept_versions_and_runs(self):
        self.change("recipes", method="post")
        self.change("lamp", {"azimuth_deg": 10, "elevation_deg": 30})
        with patch("server.recipes.services.MOST_RECIPES", 1):
            self.assertFull(self.change("recipes", method="post"), "versions")
        with patch("server.runs.services.MOST_RUNS", 0):
            self.assertFull(self.send("post", f"pieces/{self.piece.pk}/runs/", {"minutes": 40}), "runs")
        self.assertEqual((RecipeRecord.objects.count(), Run.objects.count()), (1, 0))

    def test_go_tos_and_schools(self):
        with patch("server.pieces.colours.gotos.MOST_GOTOS", 0):
            response = self.change("keep-goto", {"label": 1, "name": "Mine"}, "post")
            self.assertProblem(response, 422, "invalid_fields", "go-tos")
        school = self.send("get", "schools/").json()[0]
        body = {"school": {key: school[key] for key in ("name", "medium", "summary", "steps")}}
        with patch("server.pieces.schools.MOST_SCHOOLS", 0):
            self.assertFull(self.send("post", "schools/", body), "schools")
        self.assertEqual((GoTo.objects.count(), OwnSchool.objects.count()), (0, 0))

    def test_a_restore_counts_only_what_is_new(self):
        """An account that is full to the brim still takes its own backup; another one's is refused whole."""
        path = self.write_backup()
        with self.settings(MOST_PIECES=1, MOST_ACCOUNT_BYTES=self.piece.stored_bytes):
            self.assertEqual(backup.restore_backup(owner=self.ana, path=path).made, {})
        with self.settings(MOST_PIECES=0), self.assertRaisesMessage(backup.Refused, "holds up to"):
            backup.restore_backup(owner=self.ben, path=path)
        self.assertFalse(Piece.objects.owned_by(self.ben).exists())

    def test_a_restore_brings_no_more_of_a_kind_than_an_account_may_have(self):
        self.ana.drawers.filter(medium="marker").update(name="Ana's own")
        path = self.write_backup()
        before = self.ben.drawers.count()
        tight = tuple(replace(one, most=before) if one.name == "drawers" else one for one in backup.sections())
        self.enterContext(patch("server.backup.services.sections", return_value=tight))
        with self.assertRaisesMessage(backup.Refused, f"more than {before} drawers"):
            backup.restore_backup(owner=self.ben, path=path)
        self.assertEqual(self.ben.drawers.count(), before)

    def write_backup(self) -> Path:
        path = Path(self.enterContext(TemporaryDirectory())) / "ana.zip"
        path.write_bytes(b"".join(backup.write_backup(self.ana)))
        return path
