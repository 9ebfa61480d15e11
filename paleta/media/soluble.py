"""Water-soluble pen: pigment that runs again whenever it is wetted.

All values are common practice or from memory unless a source is named (docs/trade-notes.md).
"""

from __future__ import annotations

from paleta.media._medium import CURLS, LEAKS, WATER_TURN, Advice, Fit, Medium, Over, SecondBox, Texture
from paleta.media._optics import lay_watercolour
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep, flat
from paleta.media._swatch import DILUTED

MEDIUM = Medium(
    code="soluble",
    name="Water-soluble pen",
    rank=4,
    optics=lay_watercolour,
    weaker_by="dilution",
    weaker_power=2.0,
    drawn_out="pen drawn out with a damp brush",
    turn=WATER_TURN,
    pace=Pace(start_s=4, per_mm2_s=0.14, change_s=6, touch_dry_s=60, coat_dry_s=90, blend_s=60, setup_s=40),
    usual_school="D1",
    schools=(
        School(
            "D1",
            "Dark first, edge to edge",
            "soluble",
            "Used dry: the darkest, at once the next touching only its edge in small circles, and so on to the palest.",
            (
                SchoolStep(
                    "darkest", "own zone", "start", "work a patch of a few square centimetres, leave the edge ragged"
                ),
                SchoolStep("middles from dark", "own zone", "wet", "touch only the damp edge, in small circles"),
                SchoolStep("palest", "own zone", "wet", "ease the last edge out, never scrub back over the dark"),
            ),
        ),
        School(
            "D2",
            "Pulled with a wet brush",
            "soluble",
            "Colour at the shaded edge, pulled inwards with a damp brush; raw colour again when dry.",
            (
                SchoolStep("darkest", "own zone", "start", "draw along the shaded edge"),
                SchoolStep(
                    "middles from dark", "own zone", "wet", "draw beside it and pull both inwards with a damp brush"
                ),
                SchoolStep("palest", "own zone", "wet", "pull the last of it over the light, wet within a minute"),
                SchoolStep("darkest", "own zone", "dry", "touch raw colour to the deepest points"),
            ),
        ),
        flat("D0", "soluble"),
    ),
    lies_on={
        "pencil": Over(False, "Wax keeps what is wet off the paper: it beads, and the nib or pad clogs."),
        "inkpad": Over(False, "Water lifts blended ink again and carries its chalk about."),
        "watercolour": Over(True, "Soluble pen may be touched into a wash while it is wet.", wet=True),
    },
    tip_mm=0.8,
    finish_dry_s=300.0,
    melts=0.45,
    texture=Texture("wash", rim=0.5),
    second_box=SecondBox("dry", "pulled out", "diluted", {"dilution": DILUTED}),
    fits=(
        Fit(
            Advice(
                "Water-based dye ink runs when the colour is pulled with water.",
                "Stamp with waterproof ink, bone dry, or emboss the line.",
            ),
            lines=frozenset({"runs in water", "may run in water"}),
        ),
        Fit(
            Advice(
                "Card that is not made for water pills and buckles when the colour is pulled.",
                "Take watercolour paper of 300 g/m2, and never scrub back over a dark area.",
            ),
            papers=(frozenset({"not for water"}),),
        ),
        LEAKS,
        CURLS,
    ),
    rescues=frozenset({"lift", "clean water", "melt again", "dry first"}),
    caution="Never point a brush with the lips: some pigments are harmful. A heat tool burns; follow its label.",
)
