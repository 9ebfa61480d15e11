"""What each zone of each region will look like once the school's passes are laid."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from paleta.colour import Lab
from paleta.media import Layer, Paper, Swatch, appearance_of_layers
from paleta.order import Job, School, expand
from paleta.recipe import Sheet, zoning_of

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


def looks_of(sheet: Sheet, school: School) -> dict[int, tuple[Lab, ...]]:
    """For every region not left as paper, the Lab of its zones, deepest first."""
    looks: dict[int, tuple[Lab, ...]] = {}
    for label, count in zoning_of(sheet).shades.items():
        ramp = tuple(sheet.colours.swatches[code] for code in sheet.regions.settings[label].ramp)
        if count and ramp:
            bare = (sheet.stamp.paper_used.lab,) if count > len(ramp) else ()
            under = tuple(sheet.colours.under_swatches[code] for code in sheet.regions.settings[label].under)
            looks[label] = zone_look(ramp, school, sheet.stamp.paper_used, under) + bare
        elif count:
            light, a, b = sheet.stamp.paper_used.lab
            # The paper itself, in more and less light.
            shares = (grey / WHITE_LIGHTNESS for grey in UNCHOSEN[count])
            looks[label] = tuple((light * share, a * share, b * share) for share in shares)
    return looks


@lru_cache(maxsize=4096)
def zone_look(
    ramp: tuple[Swatch, ...], school: School, paper: Paper, under: tuple[Swatch, ...] = ()
) -> tuple[Lab, ...]:
    """Lab of the zones of one ramp (palest first) under a school, deepest zone first; `under` is the dry marker ramp
    that it goes over."""
    job = Job(region=0, name="-", area_mm2=1.0, ramp=tuple(str(i) for i in range(len(ramp))))
    strokes = expand(job, school)
    zones = []
    for zone in range(len(ramp)):
        layers = [(ramp[stroke.shade - 1], stroke.join) for stroke in strokes if zone in stroke.zones]
        zones.append(appearance_of_layers([*_beneath(under, zone, len(ramp)), *_melt(layers)], paper))
    return tuple(zones)


def _beneath(under: tuple[Swatch, ...], zone: int, zones: int) -> list[Layer]:
    """The marker of a zone beneath: its own shade over the palest, as the usual school leaves it."""
    if not under:
        return []
    place = round((len(under) - 1) * (1 - zone / max(zones - 1, 1))) if zones > 1 else (len(under) - 1) // 2
    own = under[place]
    return [Layer(own)] if own == under[0] else [Layer(under[0], coats=MELTED_COAT), Layer(own)]


def _melt(layers: Sequence[tuple[Swatch, str]]) -> list[Layer]:
    """Coats of a swatch after its first count in part while the blend is wet, and in full on dry or in pencil."""
    seen: set[str] = set()
    result = []
    for swatch, join in layers:
        again = swatch.code in seen and join == "wet"
        result.append(Layer(swatch, coats=MELTED_COAT if again else 1.0, pressure=0.6 if swatch.code in seen else 1.0))
        seen.add(swatch.code)
    return result
