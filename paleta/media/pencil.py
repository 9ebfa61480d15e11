"""Coloured pencil: wax that covers a share of the paper, as much as it is pressed; it does not dry.

All values are common practice or from memory unless a source is named (docs/trade-notes.md).
"""

from __future__ import annotations

from paleta.media._medium import DRY_TURN, Advice, Fit, Medium, Over, SecondBox, Texture, Way
from paleta.media._optics import EVEN_COVERAGE, lay_pencil
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep, flat
from paleta.media._swatch import FIRM_PRESSURE

MEDIUM = Medium(
    code="pencil",
    name="Coloured pencil",
    rank=3,
    optics=lay_pencil,
    weaker_by="pressure",
    drawn_out="pencil with a lighter and lighter hand",
    transparent=False,
    covers=EVEN_COVERAGE,
    turn=DRY_TURN,
    pace=Pace(start_s=4, per_mm2_s=0.35, change_s=5, touch_dry_s=0, coat_dry_s=0, blend_s=3600, setup_s=20),
    usual_school="P1",
    schools=(
        School(
            "P1",
            "Light first, deepen in layers",
            "pencil",
            "The palest first to protect the highlights, middle tones around, the darkest in the deepest shade.",
            (
                SchoolStep("palest", "own zone", "start", "cover the highlights first to protect them"),
                SchoolStep("middles from pale", "own zone", "any", "layer lightly, working round the highlight"),
                SchoolStep("darkest", "own zone", "any", "deepen the shade in small circles"),
                SchoolStep("palest", "all over", "any", "go over everything with a light hand to smooth the grain"),
            ),
        ),
        School(
            "P2",
            "Over markers",
            "pencil",
            "Over a coloured marker base: second darkest for lines and creases, paler ones to blend, palest all over.",
            (
                SchoolStep("second darkest", "own zone", "start", "draw lines and creases over the dry marker"),
                SchoolStep("middles from dark", "own zone", "any", "blend outwards from the creases"),
                SchoolStep("palest", "all over", "any", "go over all with a light hand to soften the texture"),
                SchoolStep("darkest", "own zone", "any", "press into the creases, last accents"),
            ),
        ),
        flat("P0", "pencil"),
    ),
    lies_on={"pencil": Over(True, "Pencil over pencil does not dry and need not wait.", wet=True)},
    lies_on_others=Over(True, "Pencil takes on anything dry; a light hand, or it burnishes."),
    tip_mm=0.5,
    finish_dry_s=0.0,
    blends_on=frozenset(),
    melts=0.45,
    texture=Texture("strokes"),
    second_box=SecondBox("even", "firm", "firm_pressure", {"pressure": FIRM_PRESSURE}),
    fits=(
        Fit(
            Advice("Wax finds no hold on a glossy paper and smears.", "Take a paper with a little tooth."),
            papers=(frozenset({"glossy"}),),
        ),
    ),
    rescues=frozenset({"rub out", "pencil shadow", "paler pencil"}),
    ways=(Way("pencil", "Pencil in layers", "P1"),),
    caution="Brush pencil dust off, do not blow it. Blades of sharpeners and knives: away from fingers.",
)
