"""Reading pictures, good and bad, and finding the regions of stampings whose truth is known."""

from __future__ import annotations

import io
import struct
import zlib
from unittest.mock import patch

import cv2
import numpy as np
import skimage.data
from django.test import SimpleTestCase
from PIL import Image

from demo.lineart import DRAWINGS, scenes, sprays
from demo.scanner import scan
from demo.truth import DEGRADED, measure
from paleta.errors import EditError, ImageTooLarge, NoRegions, NotAnImage, ResolutionMissing, ShapeError
from paleta.impression import (
    Impression,
    RegionMap,
    apply_edits,
    find_regions,
    labels_from_png,
    labels_to_png,
    likeness_doubts,
    read,
)
from tests.builders import as_file, disc, line_drawing, region_map


def huge_png(width: int, height: int) -> bytes:
    """A PNG that claims width x height pixels and holds next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\0" * 1000))
        + chunk(b"IEND", b"")
    )


def impression(picture: np.ndarray, dpi: float = 150) -> Impression:
    return read(as_file(picture), dpi=dpi)


class ReadTest(SimpleTestCase):
    def test_png_jpeg_webp_and_tiff_are_read_with_their_resolution(self):
        for kind in ("PNG", "JPEG", "TIFF"):
            with self.subTest(kind=kind):
                found = read(as_file(line_drawing(), kind, dpi=(200, 200)))
                self.assertAlmostEqual(found.dpi, 200, delta=0.5)
                self.assertEqual(found.pixels.shape, (300, 360, 3))
                self.assertEqual(found.pixels.dtype, np.float32)
        self.assertAlmostEqual(read(as_file(line_drawing(), "WEBP"), width_mm=60).dpi, 152.4)

    def test_the_users_width_wins_over_the_file(self):
        found = read(as_file(line_drawing(), dpi=(72, 72)), width_mm=45.72)
        self.assertAlmostEqual(found.dpi, 200)

    def test_a_photo_lying_on_its_side_is_turned_upright(self):
        image = Image.fromarray(line_drawing())
        exif = image.getexif()
        exif[0x0112] = 6
        self.assertEqual(read(as_file(image, "JPEG", exif=exif), dpi=150).pixels.shape, (360, 300, 3))

    def test_odd_kinds_of_picture_are_read_and_said_to_be_odd(self):
        grey = line_drawing()
        deep = grey.astype(np.uint16) * 257
        alpha = np.dstack([np.zeros((*grey.shape, 3), np.uint8), 255 - grey])
        frames = io.BytesIO()
        Image.fromarray(grey).save(frames, "TIFF", save_all=True, append_images=[Image.fromarray(grey)])
        for data, words in (
            (as_file(Image.fromarray(deep)), "16-bit"),
            (as_file(Image.fromarray(grey).convert("CMYK"), "TIFF"), "CMYK"),
            (as_file(Image.fromarray(alpha, "RGBA")), "white paper"),
            (frames.getvalue(), "2 pictures"),
        ):
            with self.subTest(words=words):
                found = read(data, dpi=150)
                self.assertIn(words, " ".join(found.warnings))
                self.assertLess(np.abs(found.pixels[..., 0] - grey / 255).mean(), 0.02)

    def test_a_very_large_scan_is_scaled_with_its_resolution(self):
        found = read(as_file(np.full((3300, 2550), 250, np.uint8)), dpi=600)
        self.assertEqual(max(found.pixels.shape), 2600)
        self.assertAlmostEqual(found.dpi, 600 * 2600 / 3300)

    def test_bad_files_are_refused_with_a_sentence(self):
        whole = as_file(line_drawing())
        for data, error, words in (
            (b"", NotAnImage, "empty"),
            (b"hello", NotAnImage, "not a PNG"),
            (whole[: len(whole) // 2], NotAnImage, "damaged or cut short"),
            (as_file(line_drawing(), "GIF"), NotAnImage, "not a PNG"),
            (as_file(np.full((20, 20), 255, np.uint8)), NotAnImage, "only 20 x 20"),
            (huge_png(20_000, 10_000), ImageTooLarge, "far more pixels"),
            (huge_png(10_000, 7_000), ImageTooLarge, "70 million"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(error, words):
                read(data, dpi=150)

    def test_a_size_that_is_missing_or_cannot_be_is_refused(self):
        for more, words in (
            ({}, "Give the width"),
            ({"width_mm": 2}, "between 1 and 45 cm"),
            ({"dpi": 9000}, "between 40 and 2400 dpi"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(ResolutionMissing, words):
                read(as_file(line_drawing()), **more)
        with self.assertRaisesMessage(ResolutionMissing, "claims 72 dpi"):
            read(as_file(np.full((60, 2000), 255, np.uint8), dpi=(72, 72)))


class FindRegionsTest(SimpleTestCase):
    def test_three_closed_cells_are_three_regions_and_the_rest_is_paper(self):
        found = find_regions(impression(line_drawing()))
        self.assertEqual([region.label for region in found.regions], [1, 2, 3])
        self.assertEqual(found.labels[5, 5], 0)
        self.assertNotEqual(found.labels[100, 260], found.labels[200, 260])

    def test_labels_are_a_full_partition_with_measured_areas(self):
        found = find_regions(impression(line_drawing()))
        self.assertEqual(set(np.unique(found.labels)), {0, 1, 2, 3})
        ball = found.regions[int(found.labels[110, 90]) - 1]
        self.assertAlmostEqual(
            ball.area_mm2, np.pi * (60 / 150 * 25.4) ** 2, delta=0.06 * np.pi * (60 / 150 * 25.4) ** 2
        )
        self.assertEqual(found.labels[ball.anchor], ball.label)

    def test_a_number_stands_clear_of_the_lines_drawn_inside_its_region(self):
        """A ball with a seam that ends short of its outline: the middle lies on the seam."""
        seamed = line_drawing()
        cv2.line(seamed, (90, 70), (90, 150), 0, 5)
        found = find_regions(impression(seamed))
        ball = found.regions[int(found.labels[110, 70]) - 1]
        self.assertEqual(found.labels[110, 110], ball.label)
        row, col = ball.anchor
        self.assertFalse(found.ink[row - 8 : row + 9, col - 8 : col + 9].any())

    def test_a_photo_of_something_else_is_doubted_and_no_stamping_is(self):
        """Photos that come with the reference library scikit-image, beside the demo's stampings at their worst."""
        # The only cell of this one is a hole in a dark blot.
        with self.assertRaisesMessage(NoRegions, "No closed region"):
            find_regions(read(as_file(skimage.data.coffee()), width_mm=100))
        for name in ("coins", "moon", "rocket"):
            with self.subTest(photo=name):
                photo = read(as_file(np.asarray(getattr(skimage.data, name)())), width_mm=100)
                (doubt,) = likeness_doubts(photo, find_regions(photo))
                self.assertIn("photo of something else", doubt)
        for name, drawing in DRAWINGS.items():
            with self.subTest(drawing=name):
                stamping = read(scan(drawing(), faults=DEGRADED["hard"], seed=3)[0])
                self.assertEqual(likeness_doubts(stamping, find_regions(stamping)), ())

    def test_a_texture_is_refused_before_its_thousands_of_cells_are_looked_at(self):
        texture = read(as_file(np.tile(np.asarray(skimage.data.gravel()), (3, 3))), width_mm=300)
        with self.assertRaisesMessage(NoRegions, "or a texture"):
            find_regions(texture)
        with (
            patch("paleta.impression.regions._find.MOST_PIECES", 3),
            self.assertRaisesMessage(NoRegions, "More than 3 cells"),
        ):
            find_regions(impression(line_drawing()))

    def test_a_gap_narrower_than_allowed_does_not_leak_and_a_wider_one_does(self):
        broken = line_drawing()
        broken[140:160, 255:260] = 255  # 0.85 mm at 150 dpi
        self.assertEqual(len(find_regions(impression(broken), gap_mm=1.2).regions), 3)
        broken[140:160, 215:305] = 255
        self.assertEqual(len(find_regions(impression(broken), gap_mm=1.0).regions), 2)

    def test_a_line_that_goes_on_paler_is_followed_but_a_smudge_is_no_line(self):
        paled = line_drawing()
        line = paled < 128
        paled[120:180, 250:270][line[120:180, 250:270]] = 215  # the wall between two regions, badly inked
        self.assertEqual(len(find_regions(impression(paled)).regions), 3)
        smudged = line_drawing()
        smudged[20:60, 20:60] = np.minimum(smudged[20:60, 20:60], 215)
        whole, marked = (find_regions(impression(one)).ink for one in (line_drawing(), smudged))
        self.assertLess(np.count_nonzero(whole != marked), 60)

    def test_borders_part_the_right_regions_and_have_their_length(self):
        labels = np.zeros((120, 200), np.int32)
        labels[20:100, 20:100], labels[20:100, 100:180] = 1, 2
        borders = {(border.a, border.b): border.length_mm for border in region_map(labels, dpi=254).borders}
        self.assertEqual(set(borders), {(0, 1), (0, 2), (1, 2)})
        self.assertAlmostEqual(borders[1, 2], 8.0 * np.pi / 4, delta=0.05)  # 80 px at 10 px/mm, Cauchy-Crofton factor

    def test_labelling_of_clean_cells_agrees_with_opencv(self):
        picture = line_drawing(line=3)
        count, reference = cv2.connectedComponents((picture > 128).astype(np.uint8), connectivity=4)
        found = find_regions(impression(picture))
        self.assertEqual(len(found.regions), count - 2)
        for label in range(1, count):
            self.assertEqual(len(np.unique(found.labels[reference == label])), 1)

    def test_true_cells_are_recovered_and_few_leak_whatever_the_stamping(self):
        # Invented drawings, so no outside truth: floors that a change must not fall through. ./bench prints the figures.
        demo = [make() for make in DRAWINGS.values()]
        chance = [make(seed) for make in (sprays, scenes) for seed in (310, 311)]  # not those that were trained on
        for drawings, degree, recovered, leaked in (
            (demo, "light", 0.97, 0.01),
            (demo, "hard", 0.88, 0.08),
            (chance, "medium", 0.96, 0.015),
        ):
            found = measure(DEGRADED[degree], drawings)
            with self.subTest(degree=degree):
                self.assertGreater(found.recovered, recovered)
                self.assertLess(found.leaked, leaked)

    def test_the_same_scan_gives_the_same_labels(self):
        picture = impression(line_drawing())
        np.testing.assert_array_equal(find_regions(picture).labels, find_regions(picture).labels)

    def test_a_sheet_without_a_drawing_is_refused_with_advice(self):
        noise = np.random.default_rng(0).integers(245, 255, (300, 300)).astype(np.uint8)
        specks = np.full((600, 600), 255, np.uint8)
        for row, col in np.random.default_rng(1).integers(5, 590, (300, 2)):
            specks[row : row + 2, col : col + 2] = 0  # all of it dust: nothing is left to find regions in
        for picture, words in (
            (np.full((300, 300), 255, np.uint8), "looks blank"),
            (noise, "looks blank"),
            (np.zeros((300, 300), np.uint8), "almost black"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(NoRegions, words):
                find_regions(impression(picture))
        with self.assertRaisesMessage(NoRegions, "No closed region"):
            find_regions(impression(specks, dpi=300))
        with self.assertRaisesMessage(NoRegions, "No closed region"):
            lines = np.full((300, 300), 255, np.uint8)
            cv2.line(lines, (50, 50), (250, 60), 0, 4)
            find_regions(impression(lines))
        with self.assertRaisesMessage(NoRegions, "0.1..5, got 9"):
            find_regions(impression(line_drawing()), gap_mm=9)


class EditTest(SimpleTestCase):
    def setUp(self):
        self.map = find_regions(impression(line_drawing()))

    def test_joined_regions_are_one_with_the_lowest_label(self):
        joined = apply_edits(self.map, [{"op": "join", "regions": [3, 2]}])
        self.assertEqual([region.label for region in joined.regions], [1, 2])
        self.assertAlmostEqual(joined.regions[1].area_mm2, sum(region.area_mm2 for region in self.map.regions[1:]))

    def test_a_barrier_parts_a_region_and_the_larger_part_keeps_its_label(self):
        # The ball: centre (90, 110), radius 60 px at 150 dpi. The barrier stops short of the outline and snaps on.
        ball = int(self.map.labels[110, 90])
        scale = self.map.px_per_mm
        line = [[100 / scale, 58 / scale], [100 / scale, 164 / scale]]
        split = apply_edits(self.map, [{"op": "split", "region": ball, "line": line}])
        left, right = int(split.labels[110, 70]), int(split.labels[110, 130])
        self.assertEqual((left, right), (ball, 4))
        areas = {region.label: region.area_mm2 for region in split.regions}
        whole = {region.label: region.area_mm2 for region in self.map.regions}
        self.assertAlmostEqual(areas[left] + areas[right], whole[ball], places=3)
        # A circular segment: R^2 acos(d / R) - d sqrt(R^2 - d^2), d = 10 px.
        exact = (60**2 * np.arccos(10 / 60) - 10 * np.sqrt(60**2 - 100)) / scale**2
        self.assertAlmostEqual(areas[right], exact, delta=0.04 * exact)

    def test_edits_replay_in_order_and_give_the_same_labels_again(self):
        ball = int(self.map.labels[110, 90])
        line = [[15.2, 8], [15.2, 30]]
        edits = [{"op": "split", "region": ball, "line": line}, {"op": "join", "regions": [4, 2]}]
        once, twice = apply_edits(self.map, edits), apply_edits(self.map, edits)
        np.testing.assert_array_equal(once.labels, twice.labels)
        self.assertEqual({region.label for region in once.regions}, {1, 2, 3})

    def test_edits_that_do_not_fit_are_refused(self):
        for edit, words in (
            ({"op": "join", "regions": [1]}, "at least two"),
            ({"op": "join", "regions": [1, 9]}, "no region 9"),
            ({"op": "melt"}, "'melt'"),
            ({"op": "split", "region": 9, "line": [[0, 0], [1, 1]]}, "no region 9 to split"),
            ({"op": "split", "region": 1, "line": [[0, 0]]}, "at least two points"),
            ({"op": "split", "region": 1, "line": [[0, 0], [1, 0]]}, "does not part"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(EditError, words):
                apply_edits(self.map, [edit])

    def test_a_map_packs_into_a_png_and_back(self):
        back = labels_from_png(labels_to_png(self.map), dpi=self.map.dpi)
        np.testing.assert_array_equal(back.labels, self.map.labels)
        np.testing.assert_array_equal(back.ink, self.map.ink)
        for data in (b"", b"no map", as_file(line_drawing())):
            with self.assertRaisesMessage(ShapeError, "not a 16-bit"):
                labels_from_png(data, dpi=300)

    def test_maps_of_unequal_shape_are_refused(self):
        with self.assertRaisesMessage(ShapeError, "equal H x W"):
            RegionMap(labels=np.zeros((4, 4), np.int32), ink=disc(5, 2), dpi=300)
