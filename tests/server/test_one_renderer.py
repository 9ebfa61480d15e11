"""The bench and the photo check see one picture: what the server keeps of its parts changes nothing in it."""

from __future__ import annotations

from tempfile import TemporaryDirectory
from unittest.mock import patch

import numpy as np
from django.test import TestCase

from paleta.light import Glow, levels
from paleta.picture import lit, planned
from server.derived import fingerprint, pictures
from server.derived.light import light_of, relief_of
from server.derived.maps import region_map
from server.derived.memory import memory
from server.pieces.models import Piece
from server.pieces.regions.grounds import lay_ground, take_ground
from server.pieces.sheet.services import describe, set_glows
from tests.server.builders import coloured, make_piece, make_user


class OneRendererTest(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.ana = make_user("ana")
        piece = coloured(make_piece(cls.ana))

        def step(service, **values) -> Piece:
            return service(actor=cls.ana, piece=piece, version=piece.version, **values)

        piece = step(take_ground, margin_mm=0)
        ground = next(label for label, one in piece.sheet().regions.settings.items() if one.fade)
        piece = step(lay_ground, labels=[ground], way="circles", wish_lab=(60, -5, -30))
        piece = step(set_glows, glows=[Glow(x_mm=20, y_mm=18, tint="#ffd27a", reserve_mm=2)])
        piece = step(describe, part="light", changes={"follow": 0.5})
        cls.piece = piece

    def test_kept_light_and_zones_are_those_of_the_core(self):
        sheet, stamping = self.piece.sheet(), self.piece.stamping
        plan = planned(sheet, region_map(stamping, sheet), relief_of(stamping, sheet))
        for kept in (light_of(stamping, sheet), light_of(stamping, sheet)):  # worked out, and from memory
            np.testing.assert_array_equal(kept, plan.light)
        labels, zones = pictures.labels_and_zones(stamping, sheet)
        np.testing.assert_array_equal(labels, plan.labels)
        np.testing.assert_array_equal(zones, plan.zones)

    def test_another_lamp_is_the_same_on_the_bench_and_in_the_core(self):
        sheet, stamping = self.piece.sheet(), self.piece.stamping
        lamp = sheet.light.lamp.__class__(azimuth_deg=80, elevation_deg=25, ambient=0.2)
        core = lit(sheet, region_map(stamping, sheet), relief_of(stamping, sheet), lamp)
        np.testing.assert_array_equal(light_of(stamping, sheet, lamp=lamp), core)
        self.assertGreater(np.abs(levels(core) - levels(light_of(stamping, sheet))).max(), 0)

    def test_the_line_drawing_is_made_without_a_form(self):
        memory.clear()
        modelled = AssertionError("a form was modelled")
        with (
            TemporaryDirectory() as empty,
            self.settings(CACHE_ROOT=empty),
            patch("server.derived.light.worker.run", side_effect=modelled),
        ):
            self.assertTrue(pictures.picture(self.piece.stamping, self.piece.sheet(), "line"))

    def test_keys_name_the_code_that_a_thing_was_made_by(self):
        own = fingerprint.code_of("order")
        self.assertEqual(own, fingerprint.code_of("order"))
        self.assertNotEqual(own, fingerprint.code_of("order", "media"))
