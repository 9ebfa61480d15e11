"""Watercolour: pigment in water, transparent; thinned, it goes to its pale shades.

All values are common practice or from memory unless a source is named (docs/trade-notes.md).
"""

from __future__ import annotations

from paleta.media._medium import CURLS, LEAKS, WATER_TURN, Advice, Fit, Medium, Over, SecondBox, Texture, Way
from paleta.media._optics import lay_watercolour
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep, flat
from paleta.media._swatch import DILUTED

MEDIUM = Medium(
    code="watercolour",
    name="Watercolour",
    rank=2,
    optics=lay_watercolour,
    weaker_by="dilution",
    weaker_power=2.0,
    drawn_out="paint drawn out with water",
    # Dried with a heat tool, 30 to 60 s; in air it takes 5 to 20 minutes.
    turn=WATER_TURN,
    pace=Pace(start_s=5, per_mm2_s=0.10, change_s=12, touch_dry_s=60, coat_dry_s=60, blend_s=90, setup_s=60),
    usual_school="W2",
    schools=(
        School(
            "W1",
            "Dark ends, light middle",
            "watercolour",
            "Pigment at the dark ends, joined through the middle with a damp brush; raw colour on the deepest points.",
            (
                SchoolStep("darkest", "own zone", "start", "touch colour to the deep ends"),
                SchoolStep("middles from dark", "own zone", "wet", "set it against the wet edge and let the two meet"),
                SchoolStep(
                    "palest", "own zone", "wet", "join the ends with a damp brush, lift a light line if it closes up"
                ),
                SchoolStep("darkest", "own zone", "dry", "touch raw colour to the deepest points"),
            ),
        ),
        School(
            "W2",
            "Pale wash, drop the dark in",
            "watercolour",
            "A pale wash all over, then darker colour dropped in at the base while it is wet.",
            (
                SchoolStep("palest", "all over", "start", "lay an even wash up to the line"),
                SchoolStep("middles from pale", "own zone", "wet", "drop it into the wet wash and let it move"),
                SchoolStep("darkest", "own zone", "wet", "drop it in at the base and leave it alone"),
            ),
        ),
        School(
            "W3",
            "Water first",
            "watercolour",
            "Clean water up to the line, strong colour on the shade edge, let it travel inwards.",
            (
                SchoolStep(
                    "darkest",
                    "own zone",
                    "start",
                    "wet the region with clean water, then drop colour on the shade edge",
                ),
                SchoolStep("middles from dark", "own zone", "wet", "drop it beside the dark and let them travel"),
                SchoolStep("palest", "own zone", "wet", "ease the last edge with a damp brush"),
            ),
        ),
        flat("W0", "watercolour"),
    ),
    lies_on={
        "pencil": Over(False, "Wax keeps what is wet off the paper: it beads, and the nib or pad clogs."),
        "inkpad": Over(False, "Water lifts blended ink again and carries its chalk about."),
        "soluble": Over(False, "Water-soluble pen runs again under anything wet: nothing wet over what must stay."),
        "marker": Over(True, "A thin glaze only: water beads on dye and takes long to dry."),
    },
    tip_mm=1.2,
    creeps_below=28.0,
    finish_dry_s=600.0,
    melts=0.5,
    texture=Texture("wash"),
    second_box=SecondBox("full", "pulled out", "diluted", {"dilution": DILUTED}),
    fits=(
        Fit(
            Advice(
                "Water-based dye ink runs when it gets wet.", "Stamp with waterproof ink, bone dry, or emboss the line."
            ),
            lines=frozenset({"runs in water"}),
        ),
        Fit(
            Advice(
                "Pale ink for no-line work is often not waterproof.",
                "Paint over a stamped scrap first and see if it runs.",
            ),
            lines=frozenset({"may run in water"}),
        ),
        Fit(
            Advice(
                "Card that is not made for water buckles under washes.",
                "Take watercolour paper of 300 g/m2, or smooth bristol with very little water.",
            ),
            papers=(frozenset({"not for water"}),),
        ),
        Fit(
            Advice(
                "This paper takes light washes, not heavy ones.",
                "Use very little water and pale washes; wet it first if you want more time.",
            ),
            papers=(frozenset({"for a little water"}),),
        ),
        LEAKS,
        CURLS,
        Fit(
            Advice("Water stands on a glossy paper and dries in spots.", "Take watercolour paper of 300 g/m2."),
            papers=(frozenset({"glossy"}),),
        ),
    ),
    rescues=frozenset({"lift", "pencil shadow", "clean water", "dry first"}),
    ways=(Way("wash", "Wash, water first", "W3"),),
    caution=(
        "Never point a brush with the lips: some pigments are harmful. A heat tool reaches several hundred "
        "degrees; wait until standing water is gone, keep fingers clear, and follow its label."
    ),
)
