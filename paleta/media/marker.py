"""Alcohol marker: dye in alcohol, transparent, it only darkens.

All values are common practice or from memory unless a source is named (docs/trade-notes.md).
"""

from __future__ import annotations

from paleta.media._medium import INK_TURN, Advice, Fit, Medium, Over, SecondBox, Way
from paleta.media._optics import lay_marker
from paleta.media._pace import Pace
from paleta.media._school import School, SchoolStep, flat

MEDIUM = Medium(
    code="marker",
    name="Alcohol marker",
    rank=1,
    optics=lay_marker,
    mixes_by_tip=True,
    # Touch dry under a minute, second coat after 2 to 3 minutes, workable a minute or so.
    turn=INK_TURN,
    pace=Pace(start_s=3, per_mm2_s=0.12, change_s=6, touch_dry_s=50, coat_dry_s=150, blend_s=75, setup_s=15),
    usual_school="M1",
    schools=(
        School(
            "M1",
            "Pale first, melt last",
            "marker",
            "The palest all over, the darkest in the shade, the middles between, the palest again to melt the steps.",
            (
                SchoolStep("palest", "all over", "start", "lay an even coat over the whole region"),
                SchoolStep("darkest", "own zone", "wet", "lay the shade, with a ragged edge"),
                SchoolStep(
                    "middles from dark", "own zone", "wet", "overlap the edge of the darker shade and pull outwards"
                ),
                SchoolStep("palest", "all over", "wet", "go over everything again until the steps melt"),
            ),
        ),
        School(
            "M2",
            "Pale first, no last coat",
            "marker",
            "The palest all over, the darkest on the shade side, the middles soften the step. No last coat.",
            (
                SchoolStep("palest", "all over", "start", "lay an even coat over the whole region"),
                SchoolStep("darkest", "own zone", "wet", "lay the shade, with a ragged edge"),
                SchoolStep("middles from dark", "own zone", "wet", "soften the step with small strokes over the edge"),
            ),
        ),
        School(
            "M3",
            "Dark first, two coats",
            "marker",
            "Dark to pale with the highlight left bare, let it dry, then the whole again with the palest over all.",
            (
                SchoolStep("darkest", "own zone", "start", "lay the shade, with a ragged edge"),
                SchoolStep("middles from dark", "own zone", "wet", "pull the edge out towards the light"),
                SchoolStep("palest", "own zone", "wet", "soften the edge and leave the lightest spot bare"),
                SchoolStep("darkest", "own zone", "dry", "second coat in the shade, strokes all one way"),
                SchoolStep("middles from dark", "own zone", "wet", "second coat, pull the edge out again"),
                SchoolStep("palest", "all over", "wet", "go over everything, the bare spot too"),
            ),
        ),
        School(
            "M4",
            "Second darkest first",
            "marker",
            "The second darkest down to the palest, blended back, and only then the darkest in the deepest creases.",
            (
                SchoolStep("second darkest", "own zone", "start", "lay the shaded side"),
                SchoolStep("middles from dark", "own zone", "wet", "pull towards the light"),
                SchoolStep("palest", "all over", "wet", "bring it down to the highlight and blend back"),
                SchoolStep("darkest", "own zone", "dry", "touch only the deepest creases, then accents"),
            ),
        ),
        School(
            "M5",
            "Two coats, one way",
            "marker",
            "For grounds: the palest marked first, then flooded in strokes of one direction, dried until the streaks "
            "even out, and coated again the same way.",
            (
                SchoolStep(
                    "palest", "own zone", "start", "mark the palest part first, so that it is never coloured over"
                ),
                SchoolStep("middles from pale", "own zone", "wet", "work away from it, each shade into the last"),
                SchoolStep("darkest", "own zone", "wet", "flood the rest in strokes of one direction"),
                SchoolStep("darkest", "own zone", "dry", "second coat in the same direction, once bone dry"),
            ),
        ),
        flat("M0", "marker"),
    ),
    lies_on={
        "pencil": Over(False, "Marker never over wax pencil: the wax clogs the nib and the colour smears."),
        "inkpad": Over(True, "Only once the ink is wholly dry, and wipe the nib: it picks up chalk."),
        "soluble": Over(False, "Water-soluble pen runs again under anything wet: nothing wet over what must stay."),
        "watercolour": Over(True, "Only on a bone dry wash; the alcohol may move its pigment."),
    },
    tip_mm=1.0,
    creeps_below=32.0,
    finish_dry_s=180.0,
    melts=0.35,
    second_box=SecondBox("one coat", "two coats", "two_coats", {"coats": 2}),
    fits=(
        Fit(
            Advice(
                "Slow pigment ink is dragged grey by alcohol marker.",
                "Stamp with dye ink made for alcohol markers, or test a heat-set line first.",
            ),
            lines=frozenset({"dragged by alcohol"}),
        ),
        Fit(
            Advice(
                "Marker spreads and turns grainy on watercolour paper.",
                "Take very smooth, heavy card of about 250 g/m2.",
            ),
            papers=(frozenset({"for water"}), frozenset({"tooth"}), frozenset({"rough"})),
        ),
        Fit(
            Advice(
                "Ink slides on this paper, dries slowly and wipes off with alcohol.",
                "Lay thin coats and let each dry; what is to blend is better pounced on than drawn.",
            ),
            papers=(frozenset({"slides"}),),
        ),
        Fit(
            Advice(
                "This paper shows the streaks of a marker.",
                "Keep a wet edge, work in small circles, or take very smooth, heavy card.",
            ),
            papers=(frozenset({"streaks"}),),
        ),
        Fit(
            Advice(
                "A marker only darkens: its pale shades vanish on toned paper.",
                "Take white card, or pencil, which can lighten toned paper.",
            ),
            papers=(frozenset({"toned"}),),
        ),
    ),
    rescues=frozenset({"blender", "pencil shadow", "paler pen", "paler pencil", "melt again", "dry first"}),
    ways=(Way("one way", "Marker, two coats one way", "M5"),),
    caution=(
        "Alcohol markers and blending fluid give off flammable vapour: air the room, and no heat tool near "
        "wet alcohol ink. Follow the makers’ labels and safety data sheets."
    ),
)
