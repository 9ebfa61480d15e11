"""What each zone of each region will look like once the school's passes are laid."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from paleta.colour import Lab
from paleta.materials import Paper
from paleta.media import Layer, Swatch, appearance_of_layers
from paleta.order import Job, School, expand
from paleta.picture._texture import POUNCED
from paleta.recipe import Coat, Sheet, spread_over, zoning_of

MELTED_COAT = 0.35
"""A second time over in the same wet blend adds this part of a coat: the dye already there is moved about, not doubled.
From memory, common practice."""
UNCHOSEN = {
    1: (88.0,),
    2: (78.0, 93.0),
    3: (70.0, 83.0, 94.0),
    4: (62.0, 74.0, 85.0, 95.0),
    5: (58.0, 68.0, 78.0, 87.0, 95.0),
}
"""L* on white paper of the zones of a region whose colours are not chosen yet, deepest first: form without colour."""
WHITE_LIGHTNESS = 95.0


def looks_of(sheet: Sheet) -> dict[int, tuple[Lab, ...]]:
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
    first, as many as the longest ramp has swatches. Each coat is dry before the next."""
    zones = max(len(ramp) for ramp, _ in stack)
    layers: list[list[Layer]] = [[] for _ in range(zones)]
    for ramp, school in stack:
        job = Job(region=0, name="-", area_mm2=1.0, ramp=tuple(str(number) for number in range(len(ramp))))
        strokes = expand(job, school)
        own = [
            _melt([(ramp[stroke.shade - 1], stroke.join) for stroke in strokes if zone in stroke.zones])
            for zone in range(len(ramp))
        ]
        for zone, place in enumerate(spread_over(len(ramp), zones)):
            layers[zone] += own[place]
    return tuple(appearance_of_layers(each, paper) for each in layers)


def _melt(layers: Sequence[tuple[Swatch, str]]) -> list[Layer]:
    """Coats of a swatch after its first count in part while the blend is wet, and in full on dry or in pencil."""
    seen: set[str] = set()
    result = []
    for swatch, join in layers:
        again = swatch.code in seen and join == "wet"
        result.append(Layer(swatch, coats=MELTED_COAT if again else 1.0, pressure=0.6 if swatch.code in seen else 1.0))
        seen.add(swatch.code)
    return result
