"""The demo's drawings and the simulated scanner: what the scenario promises of them."""

from __future__ import annotations

import xml.etree.ElementTree as ET

import cv2
import numpy as np
from django.test import SimpleTestCase

from demo.benches import PIECES
from demo.lineart import DRAWINGS
from demo.scanner import Faults, scan
from paleta.colour import hex_to_lab
from paleta.impression import read
from paleta.light import FORMS
from paleta.materials import LINES, PAPERS
from paleta.order import SCHOOLS


class DrawingTest(SimpleTestCase):
    def test_each_has_25_to_75_shapes_to_colour_with_names_of_their_own(self):
        for key, make in DRAWINGS.items():
            cells = [shape for shape in make().shapes if shape.closed and not shape.solid]
            with self.subTest(drawing=key):
                self.assertTrue(25 <= len(cells) <= 75, len(cells))
                self.assertEqual(len({shape.name for shape in cells}), len(cells))

    def test_forms_are_varied_and_known_and_colours_are_colours(self):
        for key, make in DRAWINGS.items():
            forms = {shape.form for shape in make().shapes}
            with self.subTest(drawing=key):
                self.assertGreaterEqual(len(forms), 3)
                self.assertLessEqual(forms, set(FORMS))
                for shape in make().shapes:
                    if shape.colour:
                        hex_to_lab(shape.colour)

    def test_every_outline_is_closed(self):
        # Flooding the paper from its corner must not get into any shape.
        for key, make in DRAWINGS.items():
            drawing = make()
            ink, seen = drawing.rasterise(150)
            flood = np.where(ink > 60, 1, 0).astype(np.uint8)
            cv2.floodFill(flood, None, (2, 2), 2)
            inside = (seen > 0) & (ink <= 60)
            with self.subTest(drawing=key):
                self.assertLess((flood[inside] == 2).mean(), 0.002)

    def test_drawings_stay_on_their_panel(self):
        for key, make in DRAWINGS.items():
            drawing = make()
            points = np.concatenate([shape.points for shape in drawing.shapes])
            with self.subTest(drawing=key):
                self.assertGreaterEqual(points.min(), 0)
                self.assertLessEqual(points[:, 0].max(), drawing.width_mm)
                self.assertLessEqual(points[:, 1].max(), drawing.height_mm)

    def test_the_svg_is_well_formed_with_one_titled_path_per_shape(self):
        for key, make in DRAWINGS.items():
            drawing = make()
            root = ET.fromstring(drawing.to_svg())
            with self.subTest(drawing=key):
                self.assertEqual(len(root.findall("{http://www.w3.org/2000/svg}path")), len(drawing.shapes))
                self.assertNotIn("script", drawing.to_svg())


class ScannerTest(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.drawing = DRAWINGS["balloon"]()

    def test_a_scan_is_a_jpeg_of_a_letter_quarter_that_knows_its_size(self):
        impression = read(scan(self.drawing)[0])
        self.assertEqual(impression.pixels.shape, (1650, 1275, 3))
        self.assertAlmostEqual(impression.dpi, 300)

    def test_the_same_seed_gives_the_same_bytes_and_another_seed_others(self):
        first = scan(self.drawing, seed=5)[0]
        self.assertEqual(first, scan(self.drawing, seed=5)[0])
        self.assertNotEqual(first, scan(self.drawing, seed=6)[0])

    def test_the_paper_has_its_own_colour_and_gaps_take_ink_away(self):
        grey = read(scan(self.drawing, paper="toned-grey")[0]).pixels
        white = read(scan(self.drawing)[0]).pixels
        self.assertLess(np.median(grey), np.median(white) - 0.15)
        broken = read(scan(self.drawing, faults=Faults(gaps=8))[0]).pixels
        whole = read(scan(self.drawing, faults=Faults())[0]).pixels
        self.assertLess((broken < 0.4).sum(), 0.97 * (whole < 0.4).sum())

    def test_the_truth_turns_with_the_card(self):
        _, straight = scan(self.drawing, faults=Faults(turn_deg=0))
        _, turned = scan(self.drawing, faults=Faults(turn_deg=3))
        self.assertEqual(straight.shape, turned.shape)
        same = (straight == turned)[straight > 0].mean()
        self.assertTrue(0.6 < same < 0.97, same)


class PiecesTest(SimpleTestCase):
    def test_pieces_use_three_media_several_schools_and_known_materials(self):
        planned = [piece for piece in PIECES if piece.school]
        self.assertEqual({piece.medium for piece in planned}, {"marker", "watercolour", "pencil", "soluble"})
        self.assertGreaterEqual(len({piece.school for piece in planned}), 3)
        for piece in PIECES:
            self.assertIn(piece.paper, PAPERS)
            self.assertIn(piece.ink, LINES)
            if piece.school:
                self.assertEqual(SCHOOLS[piece.school].medium, piece.medium)
