"""Blended ink pad: chalky ink, half opaque, laid in circles or pounced.

All values are common practice or from memory unless a source is named (docs/trade-notes.md).
"""

from __future__ import annotations

from paleta.media._medium import INK_TURN, Advice, Fit, Medium, Over, SecondBox, Texture, Way
from paleta.media._optics import INKPAD_COVER, lay_inkpad
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep
from paleta.media._words import ALCOHOL_INK

MEDIUM = Medium(
    code="inkpad",
    name="Blended ink pad",
    rank=5,
    optics=lay_inkpad,
    weaker_by="coats",
    drawn_out="ink faded out",
    transparent=False,
    covers=INKPAD_COVER,
    turn=INK_TURN,
    pace=Pace(start_s=5, per_mm2_s=0.03, change_s=15, touch_dry_s=60, coat_dry_s=120, blend_s=600, setup_s=45),
    usual_school="B1",
    schools=(
        School(
            "B1",
            "Palest first from the edge",
            "inkpad",
            "Two or three inks in small circles, palest first from the edge, darker over it, back and forth.",
            (
                SchoolStep("palest", "all over", "start", "blend in small circles from the edge, off the mask and on"),
                SchoolStep(
                    "middles from pale", "own zone", "any", "blend over the first, back and forth where they meet"
                ),
                SchoolStep(
                    "darkest", "own zone", "any", "deepen the corner away from the light; wipe the mask between inks"
                ),
                SchoolStep("palest", "all over", "any", "go back over the joins"),
            ),
        ),
        School(
            "B2",
            "Layered stamping",
            "inkpad",
            "Solid layers of ink: the palest for the whole layout, then the darker ones over it when dry.",
            (
                SchoolStep("palest", "all over", "start", "stamp or lay the palest solid layer"),
                SchoolStep("middles from pale", "own zone", "dry", "lay the next darker layer in register"),
                SchoolStep("darkest", "own zone", "dry", "lay the darkest layer in register"),
            ),
        ),
        School(
            "B3",
            "Pounced",
            "inkpad",
            "Light inks on felt first, the strong ones at opposite ends: pounce, turn, pounce.",
            (
                SchoolStep("palest", "all over", "start", "pounce the lightest ink with felt, turning it every time"),
                SchoolStep("middles from pale", "own zone", "any", "pounce into the first while it is fresh"),
                SchoolStep("darkest", "own zone", "any", "a drop at the far end of the felt; pounce, turn, pounce"),
            ),
        ),
    ),
    lies_on={
        "pencil": Over(False, "Wax keeps what is wet off the paper: it beads, and the nib or pad clogs."),
        "soluble": Over(False, "Water-soluble pen runs again under anything wet: nothing wet over what must stay."),
    },
    tip_mm=6.0,
    soils_masks=True,
    finish_dry_s=120.0,
    blends_on=frozenset({"wet", "any"}),
    melts=0.9,
    texture=Texture("clouds"),
    second_box=SecondBox("one coat", "two coats", "two_coats", {"coats": 2}),
    fits=(
        Fit(
            Advice(
                "Watercolour paper takes blended ink in blotches.",
                "Take smooth bristol or card; it blends visibly better.",
            ),
            papers=(frozenset({"for water"}), frozenset({"rough"})),
        ),
        Fit(
            Advice(
                "Ink slides on this paper and stays wet for long.",
                "Pounce it on with felt, let it dry for longer than on card, and keep fingers off it.",
            ),
            papers=(frozenset({"slides"}),),
        ),
    ),
    rescues=frozenset({"wipe", "pencil shadow", "dry first"}),
    ways=(
        Way("circles", "Ink pad in small circles", "B1"),
        Way("pounced", "Pounced with felt", "B3", ALCOHOL_INK),
    ),
    caution=(
        "A heat tool reaches several hundred degrees: not near alcohol ink or solvents, nothing on the hot "
        "nozzle. Follow the labels."
    ),
)
