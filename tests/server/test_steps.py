"""Steps as what changed: small, there and back, and never half."""

from __future__ import annotations

import json
from unittest.mock import patch

import jsonpatch
from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext
from hypothesis import given
from hypothesis import strategies as made

from server.derived.memory import memory
from server.pieces import steps
from server.pieces.models import Piece, Step
from tests.server.base import ApiTestCase

LEAVES = made.none() | made.booleans() | made.integers(2, 9) | made.text("ab/~é", max_size=3)
PLAIN = made.recursive(
    LEAVES, lambda inner: made.lists(inner, max_size=4) | made.dictionaries(made.text("ab/~", max_size=2), inner)
)


def kept(value):
    """As it comes back from where it is kept: nothing of it is anything else, too."""
    return json.loads(json.dumps(value))


class PatchTest(SimpleTestCase):
    @given(PLAIN, PLAIN, made.lists(made.integers(0, 5), min_size=6, max_size=6))
    def test_patches_lead_from_any_sheet_to_any_other_and_back(self, one, other, order):
        """Whatever was left out because both have it; the two also stand in lists of one length, somewhere."""
        old = kept({"same": [1, {"x": 2}], "list": [one, 1, other, [2]], "one": one})
        new = kept({"same": [1, {"x": 2}], "list": [other, 1, one, [2, order]], "other": other})
        with patch.object(steps, "PARTS", ("part",)):
            there, back = (kept(steps._patches({"part": a}, {"part": b})) for a, b in ((old, new), (new, old)))
        self.assertEqual(jsonpatch.apply_patch(old, there["part"]), new)
        self.assertEqual(jsonpatch.apply_patch(new, back["part"]), old)
        self.assertNotIn("/same", json.dumps([step["path"] for step in there["part"]]))


class StepTest(ApiTestCase):
    def last(self) -> Step:
        return Step.objects.filter(piece=self.piece).order_by("-number").first()

    def test_a_turn_of_the_lamp_is_kept_in_a_few_bytes(self):
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        step = self.last()
        self.assertEqual(set(step.forward), {"light"})
        self.assertLess(len(json.dumps([step.forward, step.back])), 500)
        self.assertGreater(len(json.dumps(Piece.objects.get(pk=self.piece.pk).current_sheet)), 2000)

    def test_a_long_walk_there_and_back_ends_where_it_began(self):
        changes = (
            ("lamp", {"azimuth_deg": 90, "elevation_deg": 20}),
            ("regions", {"labels": [1], "name": "Moon", "tags": ["sky"]}),
            ("glows", {"glows": [{"x_mm": 20, "y_mm": 20}]}),
            ("ramp", {"labels": [2], "codes": []}),
            ("medium", {"medium": "pencil", "drawer": self.ana.drawers.get(medium="pencil").pk}),
            ("finish", {"touches": ["gloss"], "notes": "¼ in from the rim"}),
            ("stamp", {"title": "Moon and box"}),
        )
        sheets = [Piece.objects.get(pk=self.piece.pk).current_sheet]
        for path, body in changes:
            self.assertEqual(self.change(path, body).status_code, 200, path)
            sheets.append(Piece.objects.get(pk=self.piece.pk).current_sheet)
        for sheet in sheets[-2::-1]:
            self.assertEqual(self.change("undo", method="post").status_code, 200)
            self.assertEqual(Piece.objects.get(pk=self.piece.pk).current_sheet, sheet)
        for sheet in sheets[1:]:
            self.assertEqual(self.change("redo", method="post").status_code, 200)
            self.assertEqual(Piece.objects.get(pk=self.piece.pk).current_sheet, sheet)

    def test_a_step_that_does_not_fit_is_refused_and_changes_nothing(self):
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        before = Piece.objects.get(pk=self.piece.pk)
        for back in (
            {"light": [{"op": "remove", "path": "/nowhere"}]},
            {"light": [{"op": "replace", "path": "/shade", "value": 1e300}]},
            {"light": [{"op": "no such", "path": "/shade"}]},
        ):
            Step.objects.filter(pk=self.last().pk).update(back=back)
            with self.subTest(back=back):
                self.assertProblem(self.change("undo", method="post"), 409, "no_such_step", "does not fit")
                after = Piece.objects.get(pk=self.piece.pk)
                self.assertEqual((after.version, after.current_sheet), (before.version, before.current_sheet))

    def test_a_sheet_that_was_just_kept_is_the_one_that_reading_it_again_gives(self):
        self.change("lamp", {"azimuth_deg": 90, "elevation_deg": 20})
        self.change("regions", {"labels": [1], "name": "Moon", "tags": ["sky"]})
        piece = Piece.objects.get(pk=self.piece.pk)
        kept = piece.sheet()
        memory.clear()
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).sheet(), kept)

    def test_a_picture_needs_no_sheet_from_the_database_once_it_is_known(self):
        address = f"/api/v1/pieces/{self.piece.pk}/picture/?view=coloured&live=true&azimuth_deg=40&elevation_deg=40"
        self.assertEqual(self.client.get(address).status_code, 200)
        with CaptureQueriesContext(connection) as asked:
            known = self.client.get(address).content
        self.assertNotIn("current_sheet", " ".join(one["sql"] for one in asked))
        memory.clear()
        with CaptureQueriesContext(connection) as asked:
            self.assertEqual(self.client.get(address).content, known)
        self.assertIn("current_sheet", " ".join(one["sql"] for one in asked))

    def test_only_the_last_steps_are_kept(self):
        with patch("server.pieces.steps.STEPS_KEPT", 3):
            for azimuth in range(10, 70, 10):
                self.change("lamp", {"azimuth_deg": azimuth, "elevation_deg": 20})
        self.assertEqual(Step.objects.filter(piece=self.piece).count(), 3)
        self.assertEqual([self.change("undo", method="post").status_code for _ in range(3)], [200, 200, 409])
