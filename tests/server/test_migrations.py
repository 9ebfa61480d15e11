"""A database of the time before the sheet was in parts becomes today's: nothing of it is lost, steps can be taken."""

from __future__ import annotations

import copy
import json
from datetime import timedelta
from pathlib import Path

from django.contrib.auth import get_user_model
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.recorder import MigrationRecorder
from django.test import TransactionTestCase

from paleta.recipe import load, sheet_sha256
from server.photo_check.models import PhotoCheck
from server.pieces.models import GoTo, OwnSchool, Piece, Step
from server.pieces.steps import redo, undo
from server.recipes.models import RecipeRecord
from server.recipes.services import recipe_of
from server.runs.models import Run, RunEvent

OLD = json.loads((Path(__file__).parents[1] / "core/data/recipe-format-1.json").read_bytes())
THEN = [("pieces", "0003_current_sheet"), ("runs", "0001_first")]


def turned(sheet: dict, azimuth_deg: float) -> dict:
    return {**copy.deepcopy(sheet), "lamp": {**sheet["lamp"], "azimuth_deg": azimuth_deg}}


class OldDatabaseTest(TransactionTestCase):
    def setUp(self):
        # There is no way back through these migrations, so the tables are taken down and put up anew.
        with connection.schema_editor() as editor:
            for model in (PhotoCheck, RunEvent, Run, RecipeRecord, Step, Piece, GoTo, OwnSchool):
                editor.delete_model(model)
        MigrationRecorder(connection).migration_qs.filter(app__in=("photo_check", "runs", "recipes", "pieces")).delete()
        executor = MigrationExecutor(connection)
        newest = executor.loader.graph.leaf_nodes()
        executor.migrate(THEN)
        self.fill(executor.loader.project_state(THEN).apps)
        MigrationExecutor(connection).migrate(newest)
        self.piece = Piece.objects.get()

    def fill(self, apps):
        """A piece at the second of three steps, with a kept version of the second; and a go-to."""
        self.ana = get_user_model().objects.create_user("ana", password="ana-has-a-long-word")
        first, second, third = (turned(OLD["sheet"], azimuth) for azimuth in (10, 52, 200))
        impression = OLD["impression"]
        piece = apps.get_model("pieces", "Piece").objects.create(
            owner_id=self.ana.pk, title=second["title"], medium=second["medium"], lamp_azimuth_deg=52,
            lamp_elevation_deg=second["lamp"]["elevation_deg"], impression_sha256=impression["sha256"],
            regions_sha256=impression["regions_sha256"], width_px=impression["width_px"],
            height_px=impression["height_px"], dpi=impression["dpi"], version=9, position=2,
        )  # fmt: skip
        step = apps.get_model("pieces", "Step")
        for number, sheet in enumerate((first, second, third), start=1):
            step.objects.create(piece=piece, number=number, what=f"Step {number}", sheet=sheet)
        record = apps.get_model("pieces", "RecipeRecord")
        for number, sheet in ((1, first), (2, second)):
            body = json.dumps({**OLD, "sheet": sheet, "version": number, "files": {}})
            record.objects.create(piece=piece, number=number, body=body, sheet_sha256="0" * 64)
        apps.get_model("pieces", "GoTo").objects.create(
            owner_id=self.ana.pk, name="Moss", medium="marker", tags=["leaf"], swatches=OLD["sheet"]["swatches"][:2]
        )

    def test_the_sheet_the_steps_the_versions_and_the_go_tos_are_there(self):
        whole = load(json.dumps(OLD).encode())
        sheet = self.piece.sheet()
        self.assertEqual(sheet, whole.sheet)
        self.assertEqual((self.piece.version, self.piece.position), (9, 2))
        back = undo(actor=self.ana, piece=self.piece, version=9)
        self.assertEqual(back.sheet().light.lamp.azimuth_deg, 10)
        self.assertEqual(back.sheet().regions, sheet.regions)
        forth = redo(actor=self.ana, piece=back, version=10)
        self.assertEqual(forth.sheet(), sheet)
        self.assertEqual(redo(actor=self.ana, piece=forth, version=11).sheet().light.lamp.azimuth_deg, 200)

        first, second = RecipeRecord.objects.order_by("number")
        self.assertEqual((recipe_of(second).sheet, recipe_of(second).plan), (sheet, whole.plan))
        self.assertEqual((first.previous, first.changes), (None, []))
        self.assertEqual(second.previous, 1)
        self.assertIn("became", second.changes[0])
        self.assertEqual(second.impression_sha256, OLD["impression"]["sha256"])
        self.assertLess(abs(second.saved_at - first.saved_at), timedelta(minutes=5))
        self.assertEqual((self.piece.latest_recipe, self.piece.latest_sheet_sha256), (2, sheet_sha256(sheet)))

        self.assertEqual({one["paper"]["water"] for one in GoTo.objects.get().swatches}, {"none"})
        self.assertEqual([one.code for one in GoTo.objects.get().as_core()],
                         [one["code"] for one in OLD["sheet"]["swatches"][:2]])  # fmt: skip
