"""The one page, read back from its PDF by an independent reader (pypdf), and drawings by another (svgelements)."""

from __future__ import annotations

import io
import re
from itertools import groupby

import cv2
import numpy as np
import pypdf
import svgelements
from django.test import SimpleTestCase

from paleta.card import (
    Base,
    CardLayer,
    CardSpec,
    CutOut,
    Greeting,
    Inside,
    Picture,
    Stock,
    Thing,
    cut_card,
    inches,
    lay_out,
    making,
)
from paleta.light import Glow, Lamp
from paleta.media import Swatch
from paleta.order import PACES, SCHOOLS, make_plan
from paleta.page import (
    DEPTHS,
    card_pdf,
    front,
    letter_of,
    lines_to_cut,
    recipe_page,
    recipe_pdf,
    recipe_text,
    to_svg,
)
from paleta.recipe import RegionSetting, Sheet
from tests.builders import as_file, by_pen, coats, make_sheet, make_work, region_map

FAMILIES = ("Rose", "Sea green", "Ochre", "Sky", "Leaf, half wash", "Brick", "Sand", "Violet")
POINTS_PER_INCH = 72


def pens() -> dict[str, Swatch]:
    found = {}
    for number, family in enumerate(FAMILIES):
        for step in range(5):
            code = f"{number}-{step}"
            lab = (90.0 - 14 * step, 8.0 * number - 30, 40.0 - 9 * number)
            found[code] = Swatch(code=code, name=f"{family} {10 * number + step}", medium="marker", lab=lab)
    return found


def scene(things: int, regions_each: int = 1, shades: int = 3):
    """So many things in a grid, each with a ramp; a sheet, its plan and its map."""
    count = things * regions_each
    across = int(np.ceil(np.sqrt(count)))
    labels = np.zeros((across * 40, across * 40), np.int32)
    for label in range(1, count + 1):
        row, column = divmod(label - 1, across)
        labels[row * 40 + 4 : row * 40 + 36, column * 40 + 4 : column * 40 + 36] = label
    swatches, settings, ramps = pens(), {}, []
    for label in range(1, count + 1):
        thing = (label - 1) // regions_each
        ramp = tuple(f"{thing % len(FAMILIES)}-{(thing // len(FAMILIES) + step) % 5}" for step in range(shades))
        ramp = tuple(sorted(ramp, key=lambda code: -swatches[code].lab[0]))
        name = f"Thing {thing + 1}" if regions_each == 1 else f"Leaf {label}"
        named = f"Thing {thing + 1}" if regions_each > 1 else ""
        settings[label] = RegionSetting(name=name, thing=named, coats=coats(*ramp))
        ramps.append(ramp)
    used = by_pen(swatches[code] for ramp in ramps for code in ramp)
    sheet = make_sheet(
        "Owl & moon",
        settings=settings,
        swatches=used,
        lamp=Lamp(azimuth_deg=52, elevation_deg=34),
        glows=(Glow(x_mm=12, y_mm=8, reach_mm=5),),
        touches=("white pen",),
        finish={"notes": "Rims on the left. Next time: paler sky."},
    )
    plan = make_plan(make_work(*ramps), SCHOOLS["M1"], PACES["marker"])
    return sheet, plan, region_map(labels)


def pictures() -> tuple[bytes, bytes]:
    picture = np.full((300, 300), 230, np.uint8)
    cv2.circle(picture, (150, 150), 90, 0, 3)
    return as_file(picture, "JPEG"), as_file(np.dstack([picture] * 3), "JPEG")


def read(pdf: bytes) -> tuple[pypdf.PdfReader, str]:
    reader = pypdf.PdfReader(io.BytesIO(pdf))
    return reader, " ".join(" ".join(page.extract_text() for page in reader.pages).split())


def between(text: str, start: str, end: str) -> str:
    return text.split(start, 1)[1].split(end, 1)[0]


class ReadBackTest(SimpleTestCase):
    """Ramps, letters, light and order are rebuilt from what the PDF says, and are the recipe's."""

    def rebuilt(self, sheet: Sheet, plan, found, **more):
        page = recipe_page(sheet, plan, found, version=3, **more)
        reader, text = read(recipe_pdf(page, *pictures()))
        return page, reader, text

    def check(self, sheet, plan, text):
        names = {one.name: one.code for one in sheet.colours.swatches.values()}
        light = re.search(r"Light from .*? \((\d+)°\), (\d+)° high", text)
        self.assertEqual((int(light[1]), int(light[2])), (52, 34))
        # Letters and what they stand for.
        things = between(text, "Things ", " Ramps, palest first")
        by_letter = dict(re.findall(r"([A-Z]{1,2}) (Thing \d+)", things))
        of_region = {}
        for label, one in sheet.regions.settings.items():
            letter = next(letter for letter, name in by_letter.items() if name == (one.thing or one.name))
            of_region[label] = letter
        # Ramps, by letter.
        block = between(text, "Ramps, palest first", "Swatches as measured: L* a* b*, D65")
        ramps = {}
        for letters, chips in re.findall(
            r"((?:[A-Z]{1,2} ?)+): (.*?)(?=(?: (?:[A-Z]{1,2} )*[A-Z]{1,2}:)|$)", block.strip()
        ):
            codes = tuple(names[name.strip()] for name in chips.split("·"))
            ramps |= dict.fromkeys(letters.split(), codes)
        for label, one in sheet.regions.settings.items():
            self.assertEqual(ramps[of_region[label]], one.coats[0].ramp)
        # Measured values.
        values = between(text, "L* a* b*, D65", "Order (B2")
        for one in sheet.colours.swatches.values():
            self.assertIn(f"{one.name} " + " ".join(f"{value:.1f}" for value in one.lab), values)
        # The order: which swatch on which thing, in which shade, wet or dry.
        told = re.findall(r"(\d+)(?:–(\d+))? ([^:;]+): ([^;]+);", between(text, "before is wet)", " Then:"))
        self.assertEqual(int(told[0][0]), 1)
        self.assertEqual(int(told[-1][1] or told[-1][0]), len(plan.passes))
        visits = [(names[name], re.sub(r"\([^)]*\)", "", stops).split()) for _, _, name, stops in told]
        expected = []
        for swatch, run in groupby(plan.passes, key=lambda one: one.swatch):
            stops = []
            for one in run:
                ramp = sheet.regions.settings[one.region].coats[0].ramp
                wet = "+" if one.join == "wet" else ""
                stop = f"{of_region[one.region]}{ramp.index(one.swatch) + 1}{wet}"
                if not stops or stops[-1] != stop:
                    stops.append(stop)
            expected.append((swatch, stops))
        self.assertEqual(visits, expected)

    def test_a_small_one(self):
        sheet, plan, found = scene(5, regions_each=3)
        _, reader, text = self.rebuilt(sheet, plan, found)
        self.check(sheet, plan, text)
        self.assertEqual(len(reader.pages), 1)
        self.assertIn("Recipe, version 3", text)
        self.assertIn("Next time: paler sky.", text)
        self.assertIn("glow 1 at 12, 8 mm", text)

    def test_sixty_things_go_on_one_page(self):
        sheet, plan, found = scene(60, shades=4)
        for paper, size in (("letter", (612, 792)), ("a4", (595.28, 841.89))):
            page = recipe_page(sheet, plan, found, version=3)
            reader, text = read(recipe_pdf(page, *pictures(), paper=paper))
            with self.subTest(paper=paper):
                self.assertEqual(len(reader.pages), 1)
                box = reader.pages[0].mediabox
                self.assertAlmostEqual(float(box.width), size[0], delta=0.1)
                self.assertAlmostEqual(float(box.height), size[1], delta=0.1)
                self.check(sheet, plan, text)

    def test_beyond_that_two_and_it_says_so(self):
        sheet, plan, found = scene(110, shades=4)
        _, reader, text = self.rebuilt(sheet, plan, found)
        self.assertEqual(len(reader.pages), 2)
        self.assertIn("page 1 of several", text)

    def test_fonts_are_embedded(self):
        sheet, plan, found = scene(3)
        _, reader, _ = self.rebuilt(sheet, plan, found)
        fonts = reader.pages[0]["/Resources"]["/Font"]
        kept = [font.get_object() for font in fonts.values()]
        named = [
            font
            for font in kept
            if "Paleta" in str(font.get("/BaseFont", "")) or "Atkinson" in str(font.get("/BaseFont", ""))
        ]
        self.assertTrue(named)
        for font in named:
            self.assertIn("/FontFile2", font["/FontDescriptor"].get_object())

    def test_the_same_recipe_gives_the_same_bytes(self):
        sheet, plan, found = scene(3)
        page = recipe_page(sheet, plan, found)
        self.assertEqual(recipe_pdf(page, *pictures()), recipe_pdf(page, *pictures()))

    def test_signs_the_face_has_not_do_not_stop_it(self):
        sheet, plan, found = scene(2)
        sheet = sheet.with_part("stamp", title="夜 Żółw ⅝")
        _, _, text = self.rebuilt(sheet, plan, found)
        self.assertIn("? Żółw 5/8", text)


class TextTest(SimpleTestCase):
    def test_the_list_of_pens_per_part(self):
        sheet, plan, found = scene(2, regions_each=2)
        text = recipe_text(recipe_page(sheet, plan, found))
        self.assertIn("A Thing 1 (2): Rose 0 · Rose 1 · Rose 2", text)
        self.assertIn("Owl & moon, working copy", text)
        self.assertIn("Finish, and what to change next time: Rims on the left.", text)

    def test_letters_go_on_and_leave_out_what_looks_like_figures(self):
        letters = [letter_of(number) for number in range(60)]
        self.assertEqual(len(set(letters)), 60)
        self.assertEqual(letters[22:26], ["Y", "Z", "AA", "AB"])
        self.assertFalse({"I", "O"} & set("".join(letters)))


class CardFilesTest(SimpleTestCase):
    def setUp(self):
        labels = np.zeros((1650, 1275), np.int32)
        cv2.circle(labels, (600, 700), 200, 1, -1)
        self.picture = Picture(labels, 300 / 25.4, (Thing("Moon", (1,)),), {1: 0.4})
        white = Stock(name="White", width=inches("17/2"), height=inches(11), grain="long", gsm=300)
        self.spec = CardSpec(
            base=Base(width=inches("17/4"), height=inches("11/2")),
            mats=(CardLayer(),),
            greeting=Greeting(text="Good night"),
            inside=Inside(text="Sleep well"),
            cutouts=(CutOut(name="Moon", regions=(1,)),),
            stock=(white,),
        )
        self.plan = lay_out(self.spec, self.picture)

    def test_cut_lines_are_closed_paths_in_millimetres_one_colour_a_depth(self):
        drawing = lines_to_cut(self.plan, self.picture, {"Figure": (1,)})
        data = to_svg(drawing)
        self.assertIn(b'width="107.95mm" height="139.70mm"', data)
        svg = svgelements.SVG.parse(io.BytesIO(data), reify=True)
        paths = [one for one in svg.elements() if isinstance(one, svgelements.Path)]
        self.assertTrue(all(isinstance(list(one)[-1], svgelements.Close) for one in paths))
        mm = svgelements.Length("1mm").value(ppi=96)
        depths = {DEPTHS["through"]: [], DEPTHS["film"]: []}
        for one in paths:
            depths[one.stroke.hex].append([side / mm for side in one.bbox()])
        # The panel, 3 3/4 by 5 in, and the moon with 1 mm round it; its mask is cut 0.3 mm inside the line.
        panel, moon = depths[DEPTHS["through"]]
        self.assertAlmostEqual(panel[2] - panel[0], 3.75 * 25.4, delta=0.01)
        self.assertAlmostEqual(panel[3] - panel[1], 5 * 25.4, delta=0.01)
        across = 401 / 300 * 25.4
        self.assertAlmostEqual(moon[2] - moon[0], across + 2, delta=0.15)
        (mask,) = depths[DEPTHS["film"]]
        self.assertAlmostEqual(mask[2] - mask[0], across - 0.6, delta=0.2)

    def test_the_front_is_drawn_at_full_size(self):
        svg = svgelements.SVG.parse(io.BytesIO(to_svg(front(self.plan, "in"))), reify=True)
        mm = svgelements.Length("1mm").value(ppi=96)
        sizes = {
            (round((box[2] - box[0]) / mm, 2), round((box[3] - box[1]) / mm, 2))
            for one in svg.elements()
            if isinstance(one, svgelements.Path) and (box := one.bbox())
        }
        for width, height in ((4.25, 5.5), (4, 5.25), (3.75, 5), (3, 0.625)):
            self.assertIn((round(width * 25.4, 2), round(height * 25.4, 2)), sizes)

    def test_the_pdf_holds_drawings_cuts_making_and_a_page_of_the_pictures_size(self):
        cutting = cut_card(self.plan, 2)
        pdf = card_pdf(
            self.plan, cutting, making(self.spec), lines_to_cut(self.plan, self.picture), title="Moon", unit="in"
        )
        reader, text = read(pdf)
        for words in (
            "Front, full size",
            "Order of making",
            "Cutting plan, 1 of",
            "4 1/4 in",
            "Good night",
            "Write and stamp the inside",
        ):
            self.assertIn(words, text)
        last = reader.pages[-1].mediabox
        self.assertAlmostEqual(float(last.height), 5.5 * POINTS_PER_INCH + 16 / 25.4 * 72, delta=0.1)
        self.assertIn("this line is 100 mm long", text)
        metric = read(card_pdf(self.plan, cutting, (), None, title="Moon", unit="mm"))[1]
        self.assertIn("107.95 mm by 139.7 mm", metric)
        self.assertNotIn("4 1/4 in", metric)
