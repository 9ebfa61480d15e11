"""Stampings made by script (tools/stampings), which share nothing with the demo: own line art, damage, papers, light."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import cv2
import numpy as np
from django.test import SimpleTestCase

from paleta.impression import Impression, find_regions, find_sheet, read
from tests.builders import as_file
from tools.stampings import (
    DEGREES,
    Panel,
    Score,
    Stamping,
    closing_panel,
    find_plainly,
    panel,
    panel_of_scenes,
    panel_of_things,
    score,
    stamp,
    true_cells,
)

PX = 150 / 25.4


def blank(width_mm: float = 60, height_mm: float = 50, line_mm: float = 0.4) -> Panel:
    return Panel(width_mm, height_mm, 150, line_mm, gap_mm=0.0, gap_share=0.0)


def boxed(*, gap_mm: float = 0.0) -> Panel:
    """A box parted in two by a line, with a gap of the given width in its middle."""
    drawn = blank()
    chance = np.random.default_rng(0)
    drawn.shape(np.array([(10, 10), (50, 10), (50, 40), (10, 40)], float), chance)
    half = (gap_mm + drawn.line_mm) / 2 if gap_mm else 0
    for stretch in ([(30, 10), (30, 25 - half)], [(30, 25 + half), (30, 40)]):
        drawn.line(np.array(stretch, float), chance)
    return drawn


def impression_of(drawn: Panel, paper: int = 245, ink: int = 25) -> Impression:
    grey = paper + (ink - paper) * (drawn.drawn.astype(float) / 255)
    return read(as_file(np.repeat(grey[..., None], 3, axis=2).astype(np.uint8)), dpi=drawn.dpi)


def regions(picture: Impression, **wishes: float) -> int:
    return len(find_regions(picture, **wishes).regions)


def stamped(degree: str, seed: int) -> tuple[Panel, Stamping]:
    """A panel stamped and scanned flat on the glass."""
    drawn = panel(seed, 200)
    return drawn, stamp(drawn, replace(DEGREES[degree], photo=0.0), seed)


def onto(drawn: Panel, picture: Stamping, labels: np.ndarray) -> np.ndarray:
    """Labels of a picture in the pixels of its panel."""
    way = cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
    size = drawn.whole.shape[::-1]
    return cv2.warpPerspective(labels.astype(np.float32), picture.to_picture, size, flags=way).astype(np.int32)


class ShareTest(SimpleTestCase):
    """Limits a little under what was measured; `python -m tools.stampings` prints the figures of many more."""

    def found(self, degree: str, seeds: Iterable[int]) -> Score:
        total = Score()
        for seed in seeds:
            drawn, picture = stamped(degree, seed)
            impression = read(picture.data, dpi=picture.dpi)
            self.assertIsNone(find_sheet(impression), msg=f"{degree} {seed}: a flat scan has no sheet to be cut out of")
            total = total + score(drawn, onto(drawn, picture, find_regions(impression).labels))
        return total

    def test_nearly_all_cells_are_found_and_few_run_together(self):
        for degree, share, together in (("clean", 0.95, 0.01), ("light", 0.95, 0.015), ("medium", 0.93, 0.02)):
            got = self.found(degree, range(2, 10))
            with self.subTest(degree=degree):
                self.assertGreater(got.found / got.cells, share)
                self.assertLess(got.together / got.cells, together)

    def test_where_lines_close_the_plain_way_does_well_and_paleta_better(self):
        """Clean, a cell that is missed was not left open by its maker."""
        ours, plain = Score(), Score()
        for seed in (1, 2, 6):
            drawn = closing_panel(seed, 200)
            picture = stamp(drawn, replace(DEGREES["clean"], photo=0.0), seed)
            impression = read(picture.data, dpi=picture.dpi)
            ours = ours + score(drawn, onto(drawn, picture, find_regions(impression).labels))
            plain = plain + score(drawn, onto(drawn, picture, find_plainly(impression.pixels, impression.px_per_mm)))
        self.assertGreater(plain.found / plain.cells, 0.96)
        self.assertGreater(ours.found / ours.cells, 0.985)
        self.assertLess(ours.spurious / ours.cells, 0.02)

    def test_it_does_better_than_the_plain_way_where_stamping_was_hard(self):
        plain = Score()
        for seed in (2, 6):
            drawn, picture = stamped("medium", seed)
            impression = read(picture.data, dpi=picture.dpi)
            labels = find_plainly(impression.pixels, impression.px_per_mm)
            plain = plain + score(drawn, onto(drawn, picture, labels))
        self.assertGreater(self.found("medium", (2, 6)).found, plain.found)


class ScoreTest(SimpleTestCase):
    def test_what_was_drawn_scores_full_and_what_runs_together_or_is_cut_does_not(self):
        drawn = boxed()
        labels = np.zeros(drawn.whole.shape, np.int32)
        left, right, box = (slice(int(a * PX), int(b * PX)) for a, b in ((10, 30), (30, 50), (10, 40)))
        labels[box, left], labels[box, right] = 1, 2
        self.assertEqual(score(drawn, labels), Score(cells=2, found=2))
        self.assertEqual(score(drawn, (labels > 0).astype(np.int32)).together, 2)
        cut = labels.copy()
        cut[int(25 * PX) :][cut[int(25 * PX) :] == 2] = 3
        got = score(drawn, cut)
        self.assertEqual((got.found, got.spurious), (1, 2))
        self.assertEqual(score(drawn, None).found, 0)


class OfThingsTest(SimpleTestCase):
    def test_a_drawing_of_things_is_the_same_each_time_and_gaps_only_take_ink_away(self):
        widest = 0.0
        for seed in range(5000, 5006):
            drawn, again = panel_of_things(seed), panel_of_things(seed)
            np.testing.assert_array_equal(drawn.drawn, again.drawn)
            self.assertTrue((drawn.drawn <= drawn.whole).all())
            self.assertEqual((drawn.drawn == drawn.whole).all(), drawn.gap_mm == 0)
            lost = cv2.distanceTransform((drawn.whole > drawn.drawn).astype(np.uint8), cv2.DIST_L2, 5)
            widest = max(widest, float(lost.max()) / drawn.px)
        self.assertLess(widest, 1.0)

    def test_its_cells_are_those_of_the_lines_without_gaps(self):
        drawn = panel_of_things(5001)
        cells = true_cells(drawn)
        self.assertGreater(int(cells.max()), 3)
        # Every cell lies in one piece of paper between the lines.
        _, pieces = cv2.connectedComponents((drawn.whole < 128).astype(np.uint8), connectivity=4)
        for cell in range(1, int(cells.max()) + 1):
            inside = pieces[(cells == cell) & (drawn.whole < 128)]
            self.assertEqual(len(np.unique(inside)), 1)

    def test_a_scene_has_one_drawing_at_every_resolution_and_knows_its_gaps(self):
        """Lines keep their width in millimetres; in every gap ink is missing."""
        coarse, fine = (panel_of_scenes(3, dpi) for dpi in (150, 300))
        back = cv2.resize(fine.whole, coarse.whole.shape[::-1], interpolation=cv2.INTER_AREA)
        self.assertGreater(float(((back > 127) == (coarse.whole > 127)).mean()), 0.97)
        gaps = 0
        for seed in range(4):
            drawn = panel_of_scenes(seed)
            for x, y, _ in drawn.gaps:
                at = round(y * drawn.px), round(x * drawn.px)
                self.assertGreater(int(drawn.whole[at]), 0)
                self.assertEqual(int(drawn.drawn[at]), 0)
                gaps += 1
        self.assertGreater(gaps, 3)


class CausesTest(SimpleTestCase):
    def test_lamp_fall_off_is_no_sheet_and_a_sheet_on_a_table_is_one(self):
        flat = impression_of(boxed())
        fall = np.linspace(1.0, 0.45, flat.pixels.shape[1])[None, :, None]
        dim = Impression(pixels=(flat.pixels * fall).astype(np.float32), dpi=flat.dpi)
        self.assertIsNone(find_sheet(dim))
        table = cv2.copyMakeBorder(flat.pixels, 40, 40, 40, 40, cv2.BORDER_CONSTANT, value=(0.3, 0.28, 0.25))
        corners = find_sheet(Impression(pixels=table, dpi=flat.dpi))
        height, width = table.shape[:2]
        wanted = np.array([(40, 40), (width - 40, 40), (width - 40, height - 40), (40, height - 40)]) / (width, height)
        self.assertIsNotNone(corners)
        self.assertLess(np.abs(np.array(corners) - wanted).max(), 0.01)

    def test_dark_table_at_the_rim_hides_no_pale_drawing(self):
        pale = impression_of(boxed(), ink=200).pixels
        for side in ("top", "left"):
            rim = pale.copy()
            if side == "top":
                rim[: round(1.5 * PX)] = 0.1
            else:
                rim[:, : round(1.5 * PX)] = 0.1
            with self.subTest(side=side):
                found = find_regions(Impression(pixels=rim, dpi=150))
                self.assertEqual(len(found.regions), 2)
                self.assertEqual(found.labels[2, 2], 0)

    def test_the_grain_of_rough_paper_makes_no_regions(self):
        chance = np.random.default_rng(3)
        plain = impression_of(boxed(), paper=170)
        grain = cv2.GaussianBlur(chance.normal(0, 1, plain.pixels.shape[:2]).astype(np.float32), (0, 0), 2)
        rough = plain.pixels * (1 + 0.05 * grain / grain.std())[..., None]
        self.assertEqual(regions(Impression(pixels=np.clip(rough, 0, 1).astype(np.float32), dpi=150)), 2)

    def test_a_small_pocket_counts_to_the_middle_of_its_line(self):
        drawn = boxed()
        x, y = 20.0, 20.0
        ring = np.array([(x, y), (x + 1.1, y), (x + 1.1, y + 1.1), (x, y + 1.1)])
        drawn.shape(ring, np.random.default_rng(0), hides=False)  # 1.2 mm2 to its middle, 0.5 mm2 of bare paper
        self.assertEqual(regions(impression_of(drawn)), 3)
        self.assertEqual(regions(impression_of(drawn), smallest_mm2=2.0), 2)

    def test_a_slit_no_tip_gets_into_is_no_region(self):
        for bare_mm, found in ((0.16, 1), (0.4, 2)):
            drawn = Panel(40, 40, 400, 0.4, gap_mm=0.0, gap_share=0.0)
            high = bare_mm + drawn.line_mm
            drawn.shape(np.array([(10, 10), (30, 10), (30, 30), (10, 30)], float), np.random.default_rng(0))
            drawn.shape(np.array([(15, 20), (23, 20), (23, 20 + high), (15, 20 + high)]), np.random.default_rng(0))
            with self.subTest(bare_mm=bare_mm):
                self.assertEqual(regions(impression_of(drawn)), found)

    def test_a_hole_in_a_line_is_no_region_and_a_cell_as_small_between_lines_is_one(self):
        """The same 0.16 mm2 of bare paper: within a line of 1.2 mm, and in a box of lines as wide as all others."""
        mm = 400 / 25.4
        for line_mm, box_mm, found in ((1.2, 0.0, 1), (0.4, 1.2, 2)):
            ink = np.zeros((600, 600), np.uint8)
            cv2.rectangle(ink, (120, 120), (480, 480), 255, round(line_mm * mm))
            x = 300 if box_mm else 120
            for side_mm, shade in ((box_mm, 255), (0.4, 0)):
                half = round(side_mm / 2 * mm)
                ink[300 - half : 300 + half, x - half : x + half] = shade
            grey = np.repeat(245 - 220 * (ink[..., None] / 255), 3, axis=2) / 255
            with self.subTest(line_mm=line_mm):
                self.assertEqual(regions(Impression(pixels=grey.astype(np.float32), dpi=400)), found)

    def test_facing_ends_of_a_line_are_bridged_where_balls_would_pass(self):
        self.assertEqual(regions(impression_of(boxed(gap_mm=1.6))), 2)
        self.assertEqual(regions(impression_of(boxed(gap_mm=6.0))), 1)
