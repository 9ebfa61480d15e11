"""Sentences with which the core refuses what no other test hands it. `tests.sentences` lists those never reached."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any
from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase

from paleta.card import cut
from paleta.chart import chart_picture, lay_out_chart, read_chart
from paleta.devices import photograph
from paleta.errors import (
    CardError,
    ChartError,
    EditError,
    ImageTooLarge,
    NoRegions,
    NotAnImage,
    PaletaError,
    PlanImpossible,
    RecipeError,
    ResolutionMissing,
    SchoolError,
    ShapeError,
    SwatchError,
    ZoningError,
)
from paleta.impression import Impression, apply_edits, find_regions, read, rectify
from paleta.light import Zoning, zone_map
from paleta.materials import PAPERS
from paleta.media import read_table, school_from_plain
from paleta.order import PACES, SCHOOLS, Job, Work, make_plan
from paleta.picture import compose, make_canvas
from paleta.recipe import MOST_REGIONS, load, to_newest
from paleta.run import choices, replay
from tests.builders import as_file, line_drawing, make_sheet, region_map
from tests.core.test_cutting import LETTER, piece
from tests.core.test_recipe import make_recipe

STEP = {"which": "palest", "where": "all over", "join": "start", "how": "lay it"}


def svg(body: str, head: str = 'width="50mm" height="50mm" viewBox="0 0 50 50"') -> bytes:
    return f'<svg xmlns="http://www.w3.org/2000/svg" {head}>{body}</svg>'.encode()


def grey(picture: np.ndarray) -> Impression:
    pixels = np.repeat(picture[..., None], 3, axis=2).astype(np.float32) / 255
    return Impression(pixels=pixels, dpi=150)


class RefusalTest(SimpleTestCase):
    def refused(self, error: type[PaletaError], words: str, work: Callable[[], Any]) -> None:
        with self.subTest(words), self.assertRaisesMessage(error, words):
            work()

    def test_drawings(self) -> None:
        dot = '<path d="M0 0h1v1z"/>'
        for error, words, data in (
            (NotAnImage, "no SVG drawing", b"<?xml version='1.0'?><note><svg/></note>"),
            (NotAnImage, "holds no lines or shapes", svg("<g/>")),
            (NotAnImage, "holds no lines or shapes", svg('<path d=""/>', 'width="1" height="1"')),
            (NotAnImage, "could not be read", svg(f'<g transform="matrix(1)">{dot}</g>')),
            (ImageTooLarge, "8,000 are the most", svg(dot * 8_001)),
            (ResolutionMissing, "does not say how large", svg(dot, 'viewBox="0 0 50 50"')),
        ):
            self.refused(error, words, lambda data=data: read(data))
        with patch("paleta.impression.reading._svg.MOST_POINTS", 3):
            self.refused(ImageTooLarge, "too many points", lambda: read(svg('<circle cx="9" cy="9" r="8"/>')))

    def test_scans_and_their_regions(self) -> None:
        drawing = grey(line_drawing())
        whole = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))
        self.refused(ResolutionMissing, "between 1 and 45 cm", lambda: rectify(drawing, whole, width_mm=500))
        self.refused(NoRegions, "gap_mm must lie", lambda: find_regions(drawing, gap_mm=9))
        self.refused(NoRegions, "sensitivity must lie", lambda: find_regions(drawing, sensitivity=2))
        nothing = np.zeros(drawing.pixels.shape[:2], bool)
        with patch("paleta.impression.regions._find.separate_ink", return_value=nothing):
            self.refused(NoRegions, "closed", lambda: find_regions(drawing))
        one = region_map(np.ones((40, 40)))
        self.refused(EditError, "fills the whole picture", lambda: apply_edits(one, [{"op": "erase", "region": 1}]))
        behind = np.ones((100, 100))
        behind[30:60] = 2
        bands = {"op": "bands", "region": 1, "labels": [3, 4], "widths_mm": [2.5, 2.5, 2.5], "gap_mm": 0, "from_deg": 0}
        self.refused(EditError, "wholly behind the figure", lambda: apply_edits(region_map(behind), [bands]))

    def test_light_and_its_picture(self) -> None:
        found = region_map(np.ones((20, 20)))
        self.refused(ZoningError, "true_to_scene must lie", lambda: Zoning(true_to_scene=2))
        self.refused(ZoningError, "shade must lie", lambda: Zoning(shade=-3))
        self.refused(ZoningError, "differ in shape", lambda: zone_map(np.ones((5, 5), np.float32), found, Zoning()))
        canvas = make_canvas(grey(np.full((20, 20), 255, np.uint8)), found)
        self.refused(ShapeError, "needs its light", lambda: compose(make_sheet(), canvas, "values", None, px_per_mm=1))

    def test_papers_schools_and_tables(self) -> None:
        paper = next(iter(PAPERS.values()))
        self.refused(SwatchError, "surface must be one of", lambda: replace(paper, surface="furry"))
        plain: Mapping[str, Any] = {"name": "Mine", "medium": "marker", "summary": "", "steps": [STEP]}
        for words, wrong in (
            ("lists its steps", {"steps": "lay it"}),
            ("1 to", {"steps": [STEP | {"how": " "}]}),
            ("cannot be written down", {"name": "Mi\x00ne"}),
        ):
            self.refused(SchoolError, words, lambda wrong=wrong: school_from_plain({**plain, **wrong}))
        self.refused(SchoolError, "At least one school", lambda: make_plan(Work(()), {}, PACES))
        for words, line in (
            ("more than", f"{'9' * 90},Sky,#80a0c0,,"),
            ("no slashes", "a/b,Sky,#80a0c0,,"),
            ("measured is one of", "a,Sky,#80a0c0,guess,"),
            ("three numbers", "a,Sky,#80a0c0,,50 1"),
        ):
            with self.subTest(words):
                (row,) = read_table(f"code,name,hex,measured,two coats\n{line}\n")
                self.assertIn(words, row.problem)

    def test_orders_and_runs(self) -> None:
        work = Work((Job(1, "Leaf", 10.0, ("a",)),))
        with patch("paleta.order._search._starts", return_value=[None]):
            self.refused(PlanImpossible, "in a circle", lambda: make_plan(work, SCHOOLS["M1"], PACES["marker"]))
        state = replay(replace(make_recipe().plan, work=None), [])
        self.refused(PlanImpossible, "does not know its work", lambda: choices(state, 0.0))

    def test_recipes(self) -> None:
        self.refused(RecipeError, "24 MB are the most", lambda: load(b" " * (24_000_001)))
        self.refused(RecipeError, "Versions count", lambda: replace(make_recipe(), version=0))
        plain = json.loads(
            json.dumps(
                {
                    "format": "paleta-recipe",
                    "format_version": 5,
                    "plan": {},
                    "sheet": {"regions": {"settings": [0] * (MOST_REGIONS + 1)}},
                }
            )
        )
        self.refused(RecipeError, "is longer than", lambda: to_newest(plain))

    def test_cards_and_charts(self) -> None:
        self.refused(CardError, "up to 20,000 pieces", lambda: cut([LETTER], [piece(1, 1, count=300)], cards=100))
        chart = lay_out_chart(3, "marker", [("a", "A")])
        sheet = as_file(chart_picture(chart, {}, paper_lab=(95.0, 0.0, 0.0)))
        photo = read(photograph(sheet, seed=1, blur_px=2)[0], dpi=200)
        self.refused(ChartError, "blurred", lambda: read_chart(photo, chart, paper_lab=(95.0, 0.0, 0.0)))
