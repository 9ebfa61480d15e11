"""Recipes by chance on drawings by chance, and cards made along them by a hand that makes faults."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import lab_to_srgb, srgb_to_lab
from paleta.devices import HOME_LIGHTS, HandFault, colour_card, photograph_card
from paleta.impression import RegionMap
from paleta.light import Body, Lamp, guess_bodies
from paleta.media import Swatch
from paleta.palette import find_ramps
from paleta.picture import Planned, planned
from paleta.recipe import Card, Coat, Colours, Finish, Light, Order, Regions, RegionSetting, Sheet, Stamp
from tools.photo_check._other_home import other_photo
from tools.stampings import panel, true_cells

HELD_BACK = 1000
OTHER_HOME = "another home"
MEDIA = ("marker", "marker", "watercolour", "pencil")
FAULTY = 0.3
"""Share of the regions on which a fault is made."""
SIZES = (3.0, 6.0, 10.0)
OVER_MM = 1.5
LEAST_MM2, LEAST_MM = 6.0, 0.9
"""Cells smaller or slimmer than this are coloured, but no fault is made on them."""


@dataclass(frozen=True)
class MadeCard:
    """A plan, the faults that were made, and the photo of the card."""

    plan: Planned
    region_map: RegionMap
    faults: tuple[HandFault, ...]
    photo: bytes
    fair: frozenset[int]
    """Regions large enough to be judged."""


def recipe(seed: int) -> tuple[Sheet, RegionMap]:
    """A sheet with a ramp on most regions, few ramps for many regions as people choose them."""
    chance = np.random.default_rng([41, seed])
    drawn = panel(seed)
    region_map = RegionMap(labels=np.maximum(true_cells(drawn), 0), ink=drawn.drawn > 127, dpi=drawn.dpi)
    medium = str(chance.choice(MEDIA))
    drawer = _drawer(medium, chance)
    ramps = []
    while len(ramps) < chance.integers(5, 9):
        wish = drawer[int(chance.integers(len(drawer)))].lab
        found = find_ramps(drawer, wish, int(chance.integers(2, 5)))
        if found:
            ramps.append(found[0].swatches)
    settings, used = {}, {}
    bodies = {label: body for body in guess_bodies(region_map) for label in body.regions}
    for region in region_map.regions:
        body: Body = bodies[region.label]
        swatches = ramps[int(chance.integers(len(ramps)))]
        if region.inradius_mm < 0.8:
            swatches = swatches[:1]
        bare = chance.random() < 0.06
        settings[region.label] = RegionSetting(
            name=f"Cell {region.label}",
            form=body.form,
            depth=body.depth,
            shades=len(swatches),
            left_as_paper=bare,
            coats=() if bare else (Coat(medium=medium, ramp=tuple(one.code for one in swatches)),),
        )
        if not bare:
            used.update({(medium, one.code): one for one in swatches})
    lamp = Lamp(azimuth_deg=float(chance.choice([315, 45, 300, 20, 90, 270])), elevation_deg=40)
    papers = ("smooth-white", "smooth-white", "watercolour-cold")
    sheet = Sheet(
        stamp=Stamp(title="Trial", paper=str(papers[int(chance.integers(2))])),
        regions=Regions(settings=settings),
        light=Light(lamp=lamp),
        colours=Colours(swatches=used),
        order=Order(),
        finish=Finish(),
        card=Card(),
    )
    return sheet, region_map


def _drawer(medium: str, chance: np.random.Generator) -> list[Swatch]:
    """Eighty swatches over all hues, and greys."""
    swatches = []
    for hue in np.arange(0, 360, 30) + chance.uniform(0, 30):
        for light in (88, 78, 68, 57, 46, 36):
            chroma = chance.uniform(0.5, 0.95) * (62 if 40 < light < 80 else 36)
            lab = np.array([light, chroma * np.cos(np.radians(hue)), chroma * np.sin(np.radians(hue))])
            lab = srgb_to_lab(np.clip(lab_to_srgb(lab), 0.02, 0.98))
            swatches.append(lab)
    swatches += [np.array([light, 0.0, -1.0]) for light in (90, 80, 70, 58, 46, 34, 22)]
    return [
        Swatch(f"p{k}", f"Pen {k}", medium, (float(lab[0]), float(lab[1]), float(lab[2])))
        for k, lab in enumerate(swatches)
    ]


def made_card(
    seed: int, light: str, kinds: Sequence[str] = ("missing", "reversed", "pale", "dark", "colour"), pen: bool = False
) -> MadeCard:
    """The card of a seed, with faults of `kinds`, photographed in one of HOME_LIGHTS or at OTHER_HOME; `pen`: one
    swatch off by 6 everywhere instead."""
    chance = np.random.default_rng([43, seed])
    sheet, region_map = recipe(seed)
    plan = planned(sheet, region_map)
    fair = frozenset(
        one.label
        for one in region_map.regions
        if one.area_mm2 >= LEAST_MM2 and one.inradius_mm >= LEAST_MM and sheet.regions.settings[one.label].coats
    )
    faults: list[HandFault] = []
    if pen:
        uses = _uses(sheet, fair)
        pens = [one for one in sorted(uses) if len(uses[one]) >= 3]
        if pens:
            faults.append(HandFault("pen", pen=pens[int(chance.integers(len(pens)))], size=6.0))
    else:
        for label in sorted(fair):
            if chance.random() > FAULTY:
                continue
            kind = str(kinds[int(chance.integers(len(kinds)))])
            shaded = len(sheet.regions.settings[label].coats[0].ramp) > 1
            if kind == "reversed" and not (shaded and _turns(plan, label)):
                kind = "pale"
            size = OVER_MM if kind == "over" else float(SIZES[int(chance.integers(len(SIZES)))])
            faults.append(HandFault(kind, (label,), size=size))
    card = colour_card(plan, region_map, faults, seed=seed)
    if light == OTHER_HOME:
        photo = other_photo(card, px_per_mm=region_map.px_per_mm, seed=seed)
    else:
        photo, _ = photograph_card(card, HOME_LIGHTS[light], px_per_mm=region_map.px_per_mm, seed=seed)
    return MadeCard(plan, region_map, tuple(faults), photo, fair)


def _uses(sheet: Sheet, labels: frozenset[int]) -> dict[tuple[str, str], list[int]]:
    uses: dict[tuple[str, str], list[int]] = {}
    for label in labels:
        for pen in sheet.regions.settings[label].pens:
            uses.setdefault(pen, []).append(label)
    return uses


def _turns(plan: Planned, label: int) -> bool:
    """Whether the light from the other side would look otherwise at all: not on what lies flat."""
    return bool(np.ptp(plan.lab_at(*np.nonzero(plan.labels == label))[:, 0]) > 12)
