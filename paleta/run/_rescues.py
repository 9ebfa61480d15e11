"""What the trade does about a slip, by its kind and the medium. All common practice (docs/trade-notes.md, section
Rescues); a maker's label and local rules come first where a product is named."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.media import MEDIUMS, SOLVENT

SLIPS = {
    "over the line": "Over the line",
    "too dark": "Too dark",
    "ran together": "Ran together",
    "stripe": "A stripe or hard edge",
    "highlight lost": "Highlight lost",
    "missed spot": "A spot was missed",
    "no depth": "No depth",
    "dropped pen": "A dropped pen or a drip",
    "gap in the line": "A gap in the stamped line",
    "warped": "The card has warped",
}
HEAT = "The nozzle is hundreds of degrees hot: keep fingers, alcohol ink and blending fluid away from it."


@dataclass(frozen=True, slots=True)
class Rescue:
    """One way out: what to do, for which slips. One that does not serve anywhere is named by the media it is for.

    lays  whether it lays colour, and so belongs into the recipe when the run is kept.
    wets  whether the paper is wet afterwards, and has to dry again.
    """

    key: str
    name: str
    how: str
    slips: tuple[str, ...]
    anywhere: bool = True
    lays: bool = True
    wets: bool = True
    caution: str = ""


RESCUES: tuple[Rescue, ...] = (
    Rescue(
        "blender",
        "Colourless blender",
        "Push the colour back inside the line with the fine firm tip, from outside inwards; blot; repeat once dry.",
        ("over the line", "dropped pen"),
        anywhere=False,
        lays=False,
        caution=SOLVENT,
    ),
    Rescue(
        "lift",
        "Damp brush and lift",
        "A clean damp brush along the edge, then lift with a dry one or kitchen paper before it sets.",
        ("over the line", "dropped pen", "ran together", "highlight lost"),
        anywhere=False,
        lays=False,
    ),
    Rescue(
        "rub out",
        "Lift with putty rubber",
        "Press and lift with a putty rubber; do not rub, the tooth closes.",
        ("over the line", "too dark", "highlight lost"),
        anywhere=False,
        lays=False,
        wets=False,
    ),
    Rescue(
        "wipe",
        "Wipe the edge, blend over",
        "Blot with a clean dry pad, then go over the place in small circles with the paler ink.",
        ("over the line", "stripe", "too dark"),
        anywhere=False,
    ),
    Rescue(
        "halo",
        "A pale halo all round",
        "Paint a pale opaque or metallic rim all round the thing: an accident becomes a glow.",
        ("over the line", "ran together"),
    ),
    Rescue(
        "snow",
        "Snow over it",
        "Cover the greeting's place, then splatter with opaque white: slightly more paint than water.",
        ("over the line", "dropped pen"),
    ),
    Rescue(
        "pencil shadow",
        "Hide it in a shadow",
        "A soft pencil shadow over the place, on the side away from the lamp.",
        ("over the line", "dropped pen", "ran together"),
        anywhere=False,
        wets=False,
    ),
    Rescue(
        "paler pen",
        "Paler pen over it",
        "Go over the place with the next paler pen of the ramp while both are damp; dye moves out of the way.",
        ("too dark", "stripe"),
        anywhere=False,
    ),
    Rescue(
        "clean water",
        "Clean water",
        "Wet the region to its line with clean water, wait a moment, lift with a dry brush; let it dry fully.",
        ("too dark", "stripe"),
        anywhere=False,
        lays=False,
    ),
    Rescue(
        "paler pencil",
        "Paler pencil over it",
        "Burnish with the paler pencil of the ramp, with a light hand.",
        ("too dark", "stripe"),
        anywhere=False,
        wets=False,
    ),
    Rescue(
        "melt again",
        "Melt the step again",
        "The palest of the ramp over both shades at once, in small circles, while they are still damp.",
        ("stripe",),
        anywhere=False,
    ),
    Rescue(
        "dry first",
        "Stop and let it dry",
        "Touch nothing until both regions are bone dry, then lay the lost edge anew with the darker of the two.",
        ("ran together",),
        anywhere=False,
        wets=False,
    ),
    Rescue(
        "white pencil",
        "White pencil",
        "White pencil on the crest that faces the lamp, pressed in the middle, light at the rim.",
        ("highlight lost",),
        wets=False,
    ),
    Rescue(
        "white pen",
        "White pen",
        "A dot or a thin line of white pen where the light is strongest; start the pen on scrap.",
        ("highlight lost",),
    ),
    Rescue(
        "fill in",
        "Fill it in",
        "The same swatch, its tip only, from the middle of the spot outwards; no second coat around it.",
        ("missed spot",),
    ),
    Rescue(
        "darker",
        "One darker, deepest places only",
        "One darker pen or pencil where the deepest shade is, and nowhere else.",
        ("no depth",),
    ),
    Rescue(
        "fine pen",
        "Matching fine pen",
        "Draw the line on with a fine pen of the ink's colour, in short strokes; let it dry before colouring on.",
        ("gap in the line",),
    ),
    Rescue(
        "books",
        "Under books overnight",
        "Dry, between clean sheets, under books overnight.",
        ("warped",),
        lays=False,
        wets=False,
    ),
    Rescue(
        "foam",
        "Mount it on foam",
        "Mount the panel on foam, more of it than usual; leave out the roller press if anything is embossed.",
        ("warped",),
        lays=False,
        wets=False,
    ),
    Rescue(
        "leave it",
        "Leave it",
        "From arm's length nobody sees it. Note it for the next card.",
        tuple(SLIPS),
        lays=False,
        wets=False,
    ),
)
RESCUE_KEYS = {one.key: one.name for one in RESCUES}
LAYING = {one.key for one in RESCUES if one.lays}
WETTING = {one.key for one in RESCUES if one.wets}


def rescues_for(slip: str, medium: str) -> list[Rescue]:
    """The ways out of a slip in a medium, the usual one first; leaving it is always one.

    Parameters
    ----------
    slip
        A key of SLIPS.
    medium
        A key of MEDIA.
    """
    own = MEDIUMS[medium].rescues
    return [one for one in RESCUES if slip in one.slips and (one.anywhere or one.key in own)]


def media_of(rescue: Rescue) -> tuple[str, ...]:
    """The media that a rescue is for."""
    return tuple(code for code, medium in MEDIUMS.items() if rescue.anywhere or rescue.key in medium.rescues)
