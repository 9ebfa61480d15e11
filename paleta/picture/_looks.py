"""What each zone of each region will look like once the school's passes are laid."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

from paleta.colour import Lab
from paleta.materials import Paper
from paleta.media import MEDIUMS, Layer, Swatch, appearance_of_layers
from paleta.order import Job, School, expand
from paleta.picture._texture import POUNCED
from paleta.recipe import Coat, Sheet, once_per_sheet, spread_over, zoning_of

OWN_TAKES, OTHER_TAKES = 0.9, 0.08
"""Part of a wet blend that a stroke of the zone's own swatch makes up once it is laid, and one that goes over the zone
from its neighbours. From memory; chosen so that zones end near their swatches."""
UNCHOSEN = {
    1: (88.0,),
    2: (78.0, 93.0),
    3: (70.0, 83.0, 94.0),
    4: (62.0, 74.0, 85.0, 95.0),
    5: (58.0, 68.0, 78.0, 87.0, 95.0),
}
"""L* on white paper of the zones of a region whose colours are not chosen yet, deepest first: form without colour."""
WHITE_LIGHTNESS = 95.0


@once_per_sheet
def looks_of(sheet: Sheet) -> Mapping[int, tuple[Lab, ...]]:
    """For every region not left as paper, the Lab of its zones, deepest first, through all its coats."""
    looks: dict[int, tuple[Lab, ...]] = {}
    paper = sheet.stamp.paper_used
    for label, count in zoning_of(sheet).shades.items():
        setting = sheet.regions.settings[label]
        if count and setting.coats:
            stack = tuple(
                (tuple(sheet.colours.swatches[pen] for pen in coat.pens), sheet.school_for(coat))
                for coat in setting.coats
            )
            looks[label] = stack_look(stack, paper) + ((paper.lab,) if count > setting.zones else ())
        elif count:
            light, a, b = paper.lab
            # The paper itself, in more and less light.
            shares = (grey / WHITE_LIGHTNESS for grey in UNCHOSEN[count])
            looks[label] = tuple((light * share, a * share, b * share) for share in shares)
    return looks


def look_of(coat: Coat) -> str:
    """How a coat shows: as its medium does, or mottled where it is pounced."""
    return POUNCED if coat.school == "B3" else coat.medium


@lru_cache(maxsize=4096)
def stack_look(stack: tuple[tuple[tuple[Swatch, ...], School], ...], paper: Paper) -> tuple[Lab, ...]:
    """Lab of the zones of coats over each other, lowest first, each a ramp (palest first) and its school; deepest zone
    first, as many as the longest ramp has swatches. Each coat is dry before the next.

    Parameters
    ----------
    stack
        coats over each other, lowest first, each dry before the next: a ramp (palest first) and its school
    paper
        what they are laid on

    Returns
    -------
    L*a*b* of the zones, the deepest first, as many as the longest ramp has swatches.
    """
    zones = max(len(ramp) for ramp, _ in stack)
    layers: list[list[Layer]] = [[] for _ in range(zones)]
    for ramp, school in stack:
        job = Job(region=0, name="-", area_mm2=1.0, ramp=tuple(str(number) for number in range(len(ramp))))
        strokes = expand(job, school)
        own = [
            _melt(
                [
                    (ramp[stroke.shade - 1], stroke.join, stroke.shade == len(ramp) - zone)
                    for stroke in strokes
                    if zone in stroke.zones
                ]
            )
            for zone in range(len(ramp))
        ]
        for zone, place in enumerate(spread_over(len(ramp), zones)):
            layers[zone] += own[place]
    return tuple(appearance_of_layers(each, paper) for each in layers)


def _melt(strokes: Sequence[tuple[Swatch, str, bool]]) -> list[Layer]:
    """What lies on a zone after strokes (swatch, join, whether it is the zone's own), as layers.

    Within a wet blend colour dissolves and pushes aside what is there; the paper takes up no more for it, so all of a
    blend together is one coat (common practice: a zone ends near its own swatch). What is laid on dry comes on top.
    """
    layers: list[Layer] = []
    laid: set[str] = set()
    blend: dict[str, tuple[Swatch, float]] = {}
    for swatch, join, own in strokes:
        medium = MEDIUMS[swatch.medium]
        if blend and join in medium.blends_on:
            stays = 1 - (OWN_TAKES if own else OTHER_TAKES)
            blend = {code: (one, share * stays) for code, (one, share) in blend.items()}
            before = blend.get(swatch.code, (swatch, 0.0))[1]
            blend[swatch.code] = (swatch, before + 1 - stays)
        else:
            layers += _as_layers(blend)
            # What mixes with nothing goes with a light hand over its neighbours' zones, and over itself.
            light = join == "any" and (not own or swatch.code in laid)
            blend = {swatch.code: (swatch, OTHER_TAKES if light else 1.0)}
        laid.add(swatch.code)
    return layers + _as_layers(blend)


def _as_layers(blend: Mapping[str, tuple[Swatch, float]]) -> list[Layer]:
    return [Layer(swatch, coats=share) for swatch, share in blend.values()]
