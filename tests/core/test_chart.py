"""Swatch charts: drawn, photographed by the simulated camera, and read back."""

from __future__ import annotations

import io

import cv2
import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from paleta.chart import chart_picture, chart_to_pdf, lay_out_chart, read_chart
from paleta.colour import difference
from paleta.devices import SimulatedReader, averaged, photograph
from paleta.errors import ChartError, ReaderNotReady
from paleta.impression import read
from paleta.materials import PAPERS
from paleta.media import appearance
from paleta.starter import markers, pencils
from tests.builders import line_drawing

PAPER = PAPERS["smooth-white"]


class ChartTest(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.swatches = markers()[::2]
        cls.chart = lay_out_chart(3, "marker", [(one.code, one.name) for one in cls.swatches])
        cls.true = {
            (one.code, which): appearance(one, PAPER, coats=which + 1) for one in cls.swatches for which in (0, 1)
        }
        cls.sheet = cls.as_png(chart_picture(cls.chart, cls.true, paper_lab=PAPER.lab))

    @staticmethod
    def as_png(picture: np.ndarray) -> bytes:
        out = io.BytesIO()
        Image.fromarray(picture).save(out, "PNG")
        return out.getvalue()

    def test_colours_come_back_under_a_warm_cast_with_a_vignette(self):
        for seed, upside_down in ((1, False), (2, True)):
            photo, _ = photograph(self.sheet, seed=seed, upside_down=upside_down, cast=(1.06, 1.0, 0.86))
            found = read_chart(read(photo, dpi=200), self.chart, paper_lab=PAPER.lab)
            off = [float(difference(one.lab, self.true[one.code, one.which])) for one in found if one.lab]
            with self.subTest(seed=seed):
                self.assertEqual(len(off), 2 * len(self.swatches))
                self.assertLess(np.median(off), 2)
                self.assertLess(np.percentile(off, 95), 4)

    def test_an_empty_box_is_read_as_empty(self):
        half = {key: lab for key, lab in self.true.items() if key[1] == 0}
        photo, _ = photograph(self.as_png(chart_picture(self.chart, half, paper_lab=PAPER.lab)), seed=1)
        found = read_chart(read(photo, dpi=200), self.chart, paper_lab=PAPER.lab)
        self.assertTrue(all(one.lab is None for one in found if one.which == 1))

    def test_photos_that_cannot_be_read_say_why(self):
        other = lay_out_chart(4, "marker", [(one.code, one.name) for one in self.swatches])
        good = photograph(self.sheet, seed=1)[0]
        for photo, chart, words in (
            (good, other, "another chart"),
            (photograph(self.sheet, seed=1, shift=(0.3, 0.0))[0], self.chart, "mark cannot be seen"),
            (photograph(self.sheet, seed=1, blur_px=7)[0], self.chart, "mark"),
            (self.as_png(np.repeat(line_drawing()[..., None], 3, axis=2)), self.chart, "No corner marks"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(ChartError, words):
                read_chart(read(photo, dpi=200), chart, paper_lab=PAPER.lab)

    def exposed(self, gain: float) -> bytes:
        """The same photo with so many times the light, as a sensor that is full cuts it off."""
        photo = np.asarray(Image.open(io.BytesIO(photograph(self.sheet, seed=1)[0])).convert("RGB"), float) / 255
        return self.as_png((np.clip(photo**2.2 * gain, 0, 1) ** (1 / 2.2) * 255).astype(np.uint8))

    def test_an_overexposed_photo_is_refused_and_what_is_not_refused_is_read_right(self):
        refused, gains = [], (0.6, 1.4, 2.4)
        for gain in gains:
            try:
                found = read_chart(read(self.exposed(gain), dpi=200), self.chart, paper_lab=PAPER.lab)
            except ChartError as error:
                self.assertIn("overexposed", str(error))
                refused.append(gain)
                continue
            off = [float(difference(one.lab, self.true[one.code, one.which])) for one in found if one.lab]
            with self.subTest(gain=gain):
                self.assertLess(np.median(off), 2.5)
        self.assertEqual(refused, [gain for gain in gains if gain >= min(refused)])
        self.assertIn(2.4, refused)

    def test_a_grey_and_a_nearly_black_photo_are_refused(self):
        photo = Image.open(io.BytesIO(photograph(self.sheet, seed=1)[0]))
        grey = self.as_png(np.repeat(np.asarray(photo.convert("L"))[..., None], 3, axis=2))
        with self.assertRaisesMessage(ChartError, "shades of grey"):
            read_chart(read(grey, dpi=200), self.chart, paper_lab=PAPER.lab)
        with self.assertRaisesMessage(ChartError, "too dark"):
            read_chart(read(self.exposed(0.02), dpi=200), self.chart, paper_lab=PAPER.lab)

    def test_too_many_and_too_few_swatches_are_refused(self):
        with self.assertRaisesMessage(ChartError, "at least one"):
            lay_out_chart(1, "marker", [])
        with self.assertRaisesMessage(ChartError, "up to 52"):
            lay_out_chart(1, "marker", [(str(k), "x") for k in range(53)])

    def test_no_box_covers_a_mark_or_a_grey_or_another_box(self):
        from paleta.chart._layout import GREY_MM, MARK_MM, grey_places, mark_places

        full = lay_out_chart(
            1, "pencil", [(one.code, one.name) for one in pencils()] + [(f"x{k}", "X") for k in range(4)]
        )
        taken = [(x, y, MARK_MM, MARK_MM) for x, y in mark_places()] + [(x, y, *GREY_MM) for x, y, _ in grey_places()]
        taken += [(box.x_mm, box.y_mm, box.width_mm, box.height_mm) for box in full.boxes]
        page = np.zeros((2800, 2160), np.int32)
        for x, y, width, height in taken:
            page[int(y * 10) : int((y + height) * 10), int(x * 10) : int((x + width) * 10)] += 1
        self.assertEqual(page.max(), 1)

    def test_the_pdf_is_a_page_that_says_what_goes_where(self):
        data = chart_to_pdf(self.chart, title="Marker drawer, chart 3", paper="smooth white card")
        self.assertTrue(data.startswith(b"%PDF-"))
        self.assertEqual(data.count(b"/Type /Page\n"), 1)
        self.assertEqual(data, chart_to_pdf(self.chart, title="Marker drawer, chart 3", paper="smooth white card"))

    def test_marks_are_those_of_opencvs_own_dictionary(self):
        picture = chart_picture(self.chart, {}, paper_lab=PAPER.lab)
        detector = cv2.aruco.ArucoDetector(
            cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_250), cv2.aruco.DetectorParameters()
        )
        _, found, _ = detector.detectMarkers(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY))
        self.assertEqual(sorted(found.ravel().tolist()), list(self.chart.mark_ids))


class ReaderTest(SimpleTestCase):
    def test_it_wants_its_white_tile_first(self):
        reader = SimulatedReader(1)
        with self.assertRaisesMessage(ReaderNotReady, "white tile"):
            reader.read((50, 0, 0))
        reader.white_tile()
        self.assertLess(float(difference(reader.read((50, 10, 5)), (50, 10, 5))), 3)

    def test_an_average_of_three_is_steadier_than_one_read(self):
        true = (50.0, 20.0, -10.0)
        one, three = [], []
        for seed in range(200):
            reader = SimulatedReader(seed, calibrated=True)
            one.append(reader.read(true)[0])
            three.append(averaged(reader, true)[0])
        # The mean of three independent reads has a standard deviation smaller by the root of three.
        self.assertAlmostEqual(np.std(one) / np.std(three), np.sqrt(3), delta=0.4)
