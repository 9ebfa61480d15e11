"""Photos, toned papers, coloured lines and SVG: what else can be handed over as an impression."""

from __future__ import annotations

import io

import cv2
import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from demo.lineart import DRAWINGS
from demo.scanner import WHITE_INK, Faults, scan
from demo.truth import recovery, true_cells
from paleta.checks import paper_like
from paleta.devices import photograph
from paleta.errors import CornersWrong, ImageTooLarge, NoRegions, NotAnImage
from paleta.impression import find_regions, find_sheet, read, rectify
from tests.builders import line_drawing

FLAT = Faults(turn_deg=0, patchy=0.2, specks=0)
SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40" fill="none" stroke="#000">'
    b'<circle cx="15" cy="20" r="10" stroke-width="0.5"/>'
    b'<path d="M30 8H55V32H30Z" stroke-width="0.5"/><g transform="translate(30 20)"><path d="M0 0H25" stroke-width=".5"/></g>'
    b"%s</svg>"
)


class PhotoTest(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.drawing = DRAWINGS["balloon"]()
        cls.sheet, cls.seen = scan(cls.drawing, faults=FLAT)

    def test_the_sheets_corners_are_found_in_photos_on_a_table(self):
        for seed in (1, 2, 3):
            data, truth = photograph(self.sheet, seed=seed)
            found = find_sheet(read(data, dpi=300))
            with self.subTest(seed=seed):
                self.assertIsNotNone(found)
                self.assertLess(np.abs(np.array(found) - truth).max(), 0.012)

    def test_a_scan_that_fills_the_picture_has_no_corners_to_straighten(self):
        self.assertIsNone(find_sheet(read(self.sheet)))

    def test_a_straightened_photo_gives_the_regions_of_the_drawing_at_their_size(self):
        data, truth = photograph(self.sheet, seed=1)
        flat = rectify(read(data, dpi=300), truth, width_mm=self.drawing.width_mm)
        height_mm = flat.pixels.shape[0] / flat.px_per_mm
        self.assertAlmostEqual(height_mm, self.drawing.height_mm, delta=0.04 * self.drawing.height_mm)
        found = find_regions(flat)
        size = found.labels.shape[::-1]
        cells = cv2.resize(
            true_cells(self.drawing, 0).astype(np.float32), size, interpolation=cv2.INTER_NEAREST
        ).astype(np.int32)
        seen = cv2.resize(self.seen.astype(np.float32), size, interpolation=cv2.INTER_NEAREST).astype(np.int32)
        self.assertGreater(recovery(found, cells, seen).recovered, 0.9)

    def test_a_phone_held_upside_down_gives_an_upright_picture(self):
        upright, truth = photograph(self.sheet, seed=2)
        turned, _ = photograph(self.sheet, seed=2, upside_down=True)
        difference = np.abs(read(upright, dpi=300).pixels - read(turned, dpi=300).pixels)
        self.assertLess(float(np.median(difference)), 0.02)
        self.assertLess(np.abs(np.array(find_sheet(read(turned, dpi=300))) - truth).max(), 0.012)

    def test_corners_that_do_not_go_round_are_refused(self):
        picture = read(self.sheet)
        for corners, words in (
            ([(0, 0), (1, 1), (1, 0), (0, 1)], "cross or fold in"),  # a bow tie
            ([(0, 0), (0, 1), (1, 1), (1, 0)], "cross or fold in"),  # the other way round
            ([(0, 0), (1, 0), (0.2, 0.2), (0, 1)], "cross or fold in"),
            ([(0.5, 0.5), (0.51, 0.5), (0.51, 0.51), (0.5, 0.51)], "almost nothing"),
            ([(0, 0), (1.4, 0), (1, 1), (0, 1)], "on the picture"),
            ([(0, 0), (1, 0), (1, 1)], "Four corners"),
        ):
            with self.subTest(corners=corners), self.assertRaisesMessage(CornersWrong, words):
                rectify(picture, corners)

    def test_a_perspective_of_known_matrix_is_undone(self):
        # Reference: OpenCV's own projection of a chequer; after rectifying, its squares are square again.
        board = np.kron(np.indices((8, 8)).sum(axis=0) % 2, np.ones((40, 40))).astype(np.float32)
        corners = np.array([(60, 40), (370, 70), (340, 350), (30, 330)], np.float32)
        matrix = cv2.getPerspectiveTransform(np.array([(0, 0), (320, 0), (320, 320), (0, 320)], np.float32), corners)
        seen = cv2.warpPerspective(board, matrix, (400, 400), borderValue=0.5)
        picture = read(_png(np.repeat((seen * 255).astype(np.uint8)[..., None], 3, axis=2)), dpi=150)
        flat = cv2.resize(rectify(picture, corners / 400).pixels[..., 0], (320, 320))
        self.assertLess(float(np.abs(flat - board)[4:-4, 4:-4].mean()), 0.06)


class InkTest(SimpleTestCase):
    def test_regions_are_found_whatever_the_papers_and_inks_colours_are(self):
        drawing = DRAWINGS["succulents"]()
        cells = true_cells(drawing, 0)
        for paper, ink in (
            ("smooth-white", (0.55, 0.62, 0.78)),  # pale blue
            ("smooth-white", (0.8, 0.3, 0.35)),  # a red
            ("cream", (0.86, 0.8, 0.66)),  # tone on tone
            ("toned-grey", (0.1, 0.1, 0.1)),
            ("kraft", (0.3, 0.18, 0.1)),
            ("kraft", WHITE_INK),
            ("toned-grey", WHITE_INK),
        ):
            data, seen = scan(drawing, paper=paper, ink_rgb=ink, faults=FLAT)
            with self.subTest(paper=paper, ink=ink):
                self.assertGreater(recovery(find_regions(read(data)), cells, seen).recovered, 0.93)

    def test_the_paper_is_told_from_the_picture(self):
        drawing = DRAWINGS["succulents"]()
        for paper in ("smooth-white", "cream", "toned-grey", "kraft"):
            with self.subTest(paper=paper):
                self.assertEqual(paper_like(read(scan(drawing, paper=paper, faults=FLAT)[0])).code, paper)

    def test_5000_specks_are_no_drawing(self):
        chance = np.random.default_rng(3)
        picture = np.full((1200, 900), 255, np.uint8)
        for x, y in chance.integers(10, 890, (5000, 2)):
            cv2.circle(picture, (int(x), int(y)), 2, 0, -1)
        with self.assertRaisesMessage(NoRegions, "specks"):
            find_regions(read(_png(picture), dpi=300))

    def test_stray_specks_round_the_drawing_become_no_regions(self):
        picture = line_drawing()
        clean = len(find_regions(read(_png(picture), dpi=150)).regions)
        for x in range(12, 350, 9):
            cv2.circle(picture, (x, 280), 1, 60, -1)
        self.assertEqual(len(find_regions(read(_png(picture), dpi=150)).regions), clean)


class SvgTest(SimpleTestCase):
    def test_line_art_is_drawn_at_300_dpi_in_its_own_size(self):
        picture = read(SVG % b"")
        self.assertAlmostEqual(picture.pixels.shape[1] / picture.px_per_mm, 60, delta=0.1)
        self.assertAlmostEqual(picture.dpi, 300, delta=1)
        areas = sorted(region.area_mm2 for region in find_regions(picture).regions)
        self.assertEqual(len(areas), 3)
        # Outlines count half: a disc of radius 10, and two rectangles of 25 x 12 mm.
        self.assertAlmostEqual(areas[-1], np.pi * 100, delta=6)
        self.assertAlmostEqual(areas[0], 25 * 12, delta=8)

    def test_the_demos_own_drawing_survives_the_way_through_svg(self):
        drawing = DRAWINGS["balloon"]()
        found = find_regions(read(drawing.to_svg().encode()))
        _, seen = drawing.rasterise(300)
        cells = true_cells(drawing, 0)
        size = found.labels.shape[::-1]
        fitted = [
            cv2.resize(one.astype(np.float32), size, interpolation=cv2.INTER_NEAREST).astype(np.int32)
            for one in (cells, seen)
        ]
        self.assertGreater(recovery(found, *fitted).recovered, 0.95)

    def test_a_drawing_without_a_size_is_fitted_to_its_lines(self):
        head = b'<svg xmlns="http://www.w3.org/2000/svg" fill="none" stroke="#000" stroke-width="2">'
        data = head + b'<circle cx="60" cy="60" r="50"/><path d="M150 20 C 250 20 250 120 150 120 Z"/></svg>'
        picture = read(data, width_mm=60)
        self.assertAlmostEqual(picture.pixels.shape[1] / picture.px_per_mm, 60, delta=0.2)
        self.assertEqual(len(find_regions(picture).regions), 2)
        with self.assertRaisesMessage(NotAnImage, "no lines"):
            read(b'<svg xmlns="http://www.w3.org/2000/svg"><text x="3" y="4">hello</text></svg>')

    def test_turned_and_nested_shapes_lie_where_the_standard_puts_them(self):
        """Transformations compose from the outside in and scale the line's width too ([SVG2], chapter 8): each shape
        beside the same one as a path in its final place."""
        pairs = (
            (
                b'<rect x="20" y="10" width="20" height="4" transform="rotate(45 30 12)" stroke-width="1"/>',
                b'<path d="M24.343 3.515 38.485 17.657 35.657 20.485 21.515 6.343Z" stroke-width="1"/>',
            ),
            (
                b'<g transform="translate(10 5)"><g transform="scale(2)"><circle cx="8" cy="8" r="4" '
                b'stroke-width="0.5"/></g></g>',
                b'<path d="M18 21A8 8 0 0 1 34 21A8 8 0 0 1 18 21Z" stroke-width="1"/>',
            ),
            (
                b'<ellipse cx="30" cy="20" rx="12" ry="5" transform="rotate(90 30 20)" stroke-width="1"/>',
                b'<path d="M25 20A5 12 0 0 1 35 20A5 12 0 0 1 25 20Z" stroke-width="1"/>',
            ),
        )
        head = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40" fill="none" '
            b'stroke="#000">%s</svg>'
        )
        for shape, path in pairs:
            with self.subTest(shape=shape[:12]):
                one, other = (read(head % item).pixels[..., 0] < 0.5 for item in (shape, path))
                self.assertGreater(np.count_nonzero(one & other) / np.count_nonzero(one | other), 0.97)

    def test_lines_are_as_wide_as_they_say(self):
        line = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="20mm" viewBox="0 0 60 20">'
            b'<path d="M5 %sL55 %s" stroke="#000" stroke-width="%g"/></svg>'
        )
        for width_mm in (0.2, 0.35, 0.5, 0.8, 1.5):
            for start, end in ((b"10", b"10"), (b"2", b"18")):
                with self.subTest(width_mm=width_mm, end=end):
                    picture = read(line % (start, end, width_mm))
                    length_px = np.hypot(50, int(end) - int(start)) * picture.px_per_mm
                    drawn_px = float((1 - picture.pixels[..., 0]).sum()) / length_px
                    self.assertAlmostEqual(drawn_px, width_mm * picture.px_per_mm, delta=0.75)

    def test_text_is_said_to_be_left_out_and_lines_without_paint_are_drawn(self):
        picture = read(SVG % b'<text x="5" y="5">hi</text><rect x="2" y="2" width="6" height="6" fill="none"/>')
        self.assertTrue(any("Text" in note for note in picture.warnings))

    def test_what_could_do_harm_is_left_out_or_refused(self):
        picture = read(SVG % b'<script>alert(1)</script><image href="http://other.example/x.png"/>')
        self.assertIn("image, script, links to other files", picture.warnings[0])
        bomb = b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>' + SVG % b"<title>&b;</title>"
        outside = b'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + SVG % b"<title>&x;</title>"
        for data, words in (
            (b'<?xml version="1.0"?>' + bomb, "entities"),
            (b'<?xml version="1.0"?>' + outside, "entities"),
            (SVG[:200], "damaged"),
            (b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"></svg>', "no lines"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(NotAnImage, words):
                read(data)
        with self.assertRaises(ImageTooLarge):
            read(SVG % (b"<!--" + b"x" * 4_100_000 + b"-->"))


def _png(picture: np.ndarray) -> bytes:
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG")
    return out.getvalue()
