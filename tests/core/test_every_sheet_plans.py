"""From any sheet that can be made to an order that breaks no rule: shares that are measured, accents in any order."""

from __future__ import annotations

from itertools import permutations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.errors import RecipeError
from paleta.light import ACCENTS, zone_shares
from paleta.media import MEDIA, Swatch, stack_fault
from paleta.order import Ways, check_plan, make_plan
from paleta.recipe import ORDER_WISHES, Accent, Coat, RegionSetting, Sheet, accents_in_laying_order, work_of
from tests.builders import make_sheet, region_map

CODES = ("p", "q", "r")
LIGHTS = {"p": 80.0, "q": 55.0, "r": 30.0}
SWATCHES = {
    (medium, code): Swatch(code=code, name=f"{medium} {code}", medium=medium, lab=(LIGHTS[code], 5.0, 5.0))
    for medium in MEDIA
    for code in CODES
}
LABELS = np.repeat(np.arange(1, 5, dtype=np.int32), 30)[None, :].repeat(40, axis=0)
MAP = region_map(LABELS)
STACKS = [
    stack for many in (1, 2, 3) for stack in permutations(MEDIA, many) if not stack_fault(stack)
]  # every stack of coats that the trade allows


@st.composite
def region_settings(draw: st.DrawFn, name: str) -> RegionSetting:
    stack = draw(st.sampled_from(STACKS))
    coats = tuple(Coat(medium=medium, ramp=CODES[: draw(st.integers(1, 3))]) for medium in stack)
    kinds = draw(st.lists(st.sampled_from(tuple(ACCENTS)), max_size=4, unique=True))
    accents = tuple(Accent(kind=kind, medium=draw(st.sampled_from(tuple(MEDIA))), code="r") for kind in kinds)
    role = draw(st.sampled_from(("", "focal", "background")))
    bare = draw(st.booleans())
    try:
        return RegionSetting(name=name, coats=coats, accents=accents, role=role, bare_highlight=bare)
    except RecipeError:  # media that may not lie on each other in any order are refused when they are chosen
        return RegionSetting(name=name, coats=coats, role=role, bare_highlight=bare)


@st.composite
def sheets(draw: st.DrawFn) -> Sheet:
    regions = {label: draw(region_settings(f"R{label}")) for label in range(1, 5)}
    used = {pen for setting in regions.values() for pen in setting.pens}
    return make_sheet(
        settings=regions,
        swatches={pen: SWATCHES[pen] for pen in used},
        masked=draw(st.booleans()),
        wish=draw(st.sampled_from(tuple(ORDER_WISHES))),
    )


class EverySheetTest(SimpleTestCase):
    @settings(max_examples=15)
    @given(sheets(), st.data())
    def test_has_an_order_that_breaks_no_rule(self, sheet: Sheet, data: st.DataObject):
        levels = st.lists(st.integers(1, 400), min_size=4, max_size=4)
        shares = {
            label: measured_shares(data.draw(levels)[: setting.zones + setting.bare_highlight])
            for label, setting in sheet.regions.settings.items()
        }
        work = work_of(sheet, MAP, shares)
        ways = Ways.of({medium: sheet.order.school_of(medium) for medium in sheet.media})
        plan = make_plan(work, ways.schools, ways.paces)
        self.assertEqual([one.sentence for one in check_plan(work, plan)], [])


def measured_shares(parts: list[int]) -> tuple[float, ...]:
    """Shares of a region whose zones have these numbers of pixels, as the picture measures them."""
    light = np.repeat(np.arange(len(parts), dtype=np.int32), parts)[None, :]
    starts = {1: np.arange(1, len(parts), dtype=np.int32)}
    return zone_shares(light, np.ones_like(light), starts)[1]


class SharesTest(SimpleTestCase):
    @given(st.lists(st.integers(0, 5000), min_size=1, max_size=5).filter(any))
    def test_add_up_to_one_however_they_are_rounded(self, parts: list[int]):
        shares = measured_shares(parts)
        self.assertAlmostEqual(sum(shares), 1.0, places=9)
        self.assertTrue(all(share >= 0 for share in shares))
        for share, part in zip(shares, parts, strict=True):
            self.assertAlmostEqual(share, part / sum(parts), delta=0.00101)


class AccentOrderTest(SimpleTestCase):
    def test_media_change_places_where_one_could_not_lie_over_the_other(self):
        crease = Accent(kind="crease", medium="pencil", code="r")
        halo = Accent(kind="halo", medium="inkpad", code="p")
        self.assertTrue(stack_fault(("watercolour", "pencil", "inkpad")))
        laid = accents_in_laying_order(["watercolour"], (crease, halo))
        self.assertEqual(laid, (halo, crease))

    def test_touches_of_a_background_come_first_however_they_are_listed(self):
        listed = tuple(Accent(kind=kind, medium="pencil", code="r") for kind in reversed(ACCENTS))
        laid = accents_in_laying_order(["marker"], listed)
        usual = ["stencil", "stamps", "splatter", "crease", "shadow", "halo", "rim"]
        self.assertEqual([accent.kind for accent in laid], usual)

    def test_media_that_cannot_lie_over_each_other_are_refused_with_the_reason(self):
        rim = Accent(kind="rim", medium="marker", code="r")
        with self.assertRaisesMessage(RecipeError, "Marker never over wax pencil"):
            accents_in_laying_order(["pencil"], (rim,))
