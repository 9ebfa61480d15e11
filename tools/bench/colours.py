"""Pens that look like themselves, zones that end near their swatches, and ramps over drawers made by chance.

Ramps stand beside a plain way of choosing.

    .venv/bin/python -m tools.bench.colours

Half of the drawers were never looked at while ramps were worked on (held back: their seeds are others).
"""

from __future__ import annotations

import statistics
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from paleta import starter
from paleta.colour import Lab, difference
from paleta.media import Swatch, appearance
from paleta.order import SCHOOLS
from paleta.palette import find_ramps, missing_pen
from paleta.picture import stack_look
from tools.bench.show import show, timed

LOOKED_AT, HELD_BACK = 3, 4003
DRAWERS, WISHES, SHADES = 60, 5, 3
COLOURED, FAR_HUE = 10.0, 45.0
"""From this chroma on a swatch has a hue; neighbours of a ramp that are farther apart in it are strangers."""
LEAST_STEP = 2.0
"""What makes a ladder sensible is said here anew: nothing is taken from the search that is measured."""
STEP = 14.0
"""How far apart in lightness the plain way wants its shades."""
OWNED = 3.0
"""Whoever has a swatch as near as this, by CIEDE2000, has the colour."""
MANY = 5000
BEFORE = {
    "markers": "4 of 84 over 2",
    "pencils": "23 of 48 over 2, worst 25",
    "a black pencil of L* 10": "L* 38",
    "sensible": "0.91",
    "owned": "66 of 793",
    "no better": "116 of 793",
}
"""As measured from outside, on other drawers."""


def pens() -> None:
    """How far one coat on its own paper lies from what was measured."""
    print(f"\n{'one coat beside its swatch, CIEDE2000':44}{'median':>10}{'worst':>10}{'aim':>10}   before")
    made = {"markers": starter.markers(), "watercolours": starter.watercolours(), "pencils": _pencils(),
            "soluble pens": starter.soluble_pens(), "ink pads": starter.ink_pads()}  # fmt: skip
    for name, drawer in made.items():
        off = [float(difference(appearance(one, one.paper), one.lab)) for one in drawer]
        aim = 0.5 if name == "pencils" else 1.0
        print(f"{f'{len(drawer)} {name}':44}{statistics.median(off):10.2f}{max(off):10.2f}{aim:10.1f}   "
              f"{BEFORE.get(name, '')}", flush=True)  # fmt: skip
    name = "a black pencil of L* 10"
    pencil = Swatch("k", "Black", "pencil", (10.0, 0.0, 0.0))
    black = appearance(pencil, pencil.paper)[0]
    print(f"{name:44}{f'L* {black:.1f}':>10}{'':10}{'L* 10':>10}   {BEFORE[name]}", flush=True)


def _pencils() -> list[Swatch]:
    """The starter's, and as many by chance from near blacks on."""
    chance = np.random.default_rng(HELD_BACK)
    made = []
    for k, light in enumerate(chance.uniform(10, 85, 48).tolist()):
        # No pigment is both near black and vivid.
        vivid = min(25.0, 0.5 * light)
        made.append(Swatch(f"p{k}", f"P {k}", "pencil", _lab(chance, (light, -vivid, -vivid), (light, vivid, vivid))))
    return [*starter.pencils(), *made]


def _lab(
    chance: np.random.Generator, low: NDArray[np.float64] | Sequence[float], high: NDArray[np.float64] | Sequence[float]
) -> Lab:
    light, a, b = chance.uniform(low, high).tolist()
    return light, a, b


def drawer_by_chance(kind: str, chance: np.random.Generator) -> list[Swatch]:
    """awkward: few, of every colour. families: ramps of some hues with gaps. dense: the same, and a crowd all alike."""
    if kind == "awkward":
        labs = [_lab(chance, (15, -60, -60), (95, 60, 60)) for _ in range(18)]
    else:
        labs = []
        for hue in chance.uniform(0, 2 * np.pi, int(chance.integers(4, 12))):
            for light in np.linspace(90, 25, int(chance.integers(4, 8))) + min(chance.normal(0, 3), 8.0):
                chroma = chance.uniform(25, 60) * (1 - abs(light - 55) / 80)
                labs.append((float(light), float(chroma * np.cos(hue)), float(chroma * np.sin(hue))))
        labs += [(float(light), 0.0, 0.0) for light in chance.uniform(20, 95, 6)]
    if kind == "dense":
        middle = np.array(labs[len(labs) // 2])
        labs += [_lab(chance, middle - 1, middle + 1) for _ in range(150)]
    return [Swatch(f"s{k}", f"S {k}", "marker", lab) for k, lab in enumerate(labs)]


def plain_ramp(drawer: Sequence[Swatch], wish: Lab) -> list[Swatch]:
    """The nearest swatch to the wish, and to what lies a step above and below it in lightness."""
    labs, chosen = np.array([one.lab for one in drawer]), []
    for up in (STEP, 0.0, -STEP):
        chosen.append(drawer[int(np.argmin(difference(labs, (wish[0] + up, wish[1], wish[2]))))])
    return chosen


def sensible(ramp: Sequence[Swatch]) -> bool:
    """Falls from each to the next, with no two neighbours of unlike hues, and no swatch twice."""
    labs = np.array([one.lab for one in ramp])
    chroma, hue = np.hypot(labs[:, 1], labs[:, 2]), np.degrees(np.arctan2(labs[:, 2], labs[:, 1]))
    apart = np.abs((np.diff(hue) + 180) % 360 - 180)
    strangers = (np.minimum(chroma[1:], chroma[:-1]) >= COLOURED) & (apart > FAR_HUE)
    return bool((np.diff(labs[:, 0]) <= -LEAST_STEP).all() and not strangers.any())


def ramps() -> None:
    """Shares of wishes that are answered and of answers that are sensible, and what missing pens are worth."""
    print(f"\n{f'ramps of {SHADES} for wishes by chance':44}{'answered':>10}{'sensible':>10}{'plain':>10}"
          f"   pens missed: named, owned, no better (before: {BEFORE['sensible']} sensible; "
          f"{BEFORE['owned']} owned, {BEFORE['no better']} no better; aims 0.98, none, none)")  # fmt: skip
    for words, seed in (("", LOOKED_AT), (", held back", HELD_BACK)):
        for kind in ("awkward", "families", "dense"):
            chance = np.random.default_rng([seed, len(kind)])
            found, plain, missed, owned, worse = [], [], 0, 0, 0
            for _ in range(DRAWERS):
                drawer = drawer_by_chance(kind, chance)
                labs = np.array([one.lab for one in drawer])
                for wish in (_lab(chance, (35, -40, -40), (75, 40, 40)) for _ in range(WISHES)):
                    best = find_ramps(drawer, wish, SHADES, alternatives=1)
                    found += [sensible(one.swatches) for one in best]
                    plain.append(sensible(plain_ramp(drawer, wish)))
                    missing = missing_pen(drawer, wish, SHADES)
                    if missing is None:
                        continue
                    missed += 1
                    owned += float(difference(labs, missing.lab).min()) < OWNED
                    new = Swatch("new", "New", "marker", missing.lab)
                    after = find_ramps([*drawer, new], wish, SHADES, alternatives=1)
                    worse += bool(best) and not after[0].cost < best[0].cost
            wishes = DRAWERS * WISHES
            print(f"{kind + words:44}{len(found) / wishes:10.2f}{np.mean(found):10.3f}{np.mean(plain):10.3f}   "
                  f"{missed} of {wishes}, {owned}, {worse}", flush=True)  # fmt: skip
    chance = np.random.default_rng(LOOKED_AT)
    many = [Swatch(f"s{k}", f"S {k}", "marker", _lab(chance, (15, -60, -60), (95, 60, 60))) for k in range(MANY)]
    show(f"a ramp out of {MANY:,}", timed(lambda: find_ramps(many, (58.0, -35.0, 25.0), SHADES)), 200)


NEAR_L, NEAR_E = 5.0, 8.0
"""How near to its swatch a zone ends, in L* and CIEDE2000, unless its school lays a dry second coat."""


def families(medium: str) -> list[list[Swatch]]:
    """Neighbours in the starter drawer's families, palest first, three together where there are three."""
    by_family: dict[str, list[Swatch]] = {}
    for one in {code: make for _, code, make in starter.DRAWERS}[medium]():
        by_family.setdefault(one.family, []).append(one)
    found = []
    for family in by_family.values():
        family.sort(key=lambda one: -one.lab[0])
        size = min(SHADES, len(family))
        found += [family[at : at + size] for at in range(len(family) - size + 1) if size > 1]
    return found


def schools() -> None:
    """Where the zones of sensible ramps end beside their swatches, school by school."""
    print(f"\n{'zones beside their swatches, L*: median and worst, deepest first':66}{'near':>6}")
    for code, school in SCHOOLS.items():
        if code.endswith("0"):
            continue  # one flat colour
        off: dict[int, list[tuple[float, float]]] = {}
        for ramp in families(school.medium):
            look = stack_look(((tuple(ramp), school),), ramp[0].paper)
            for zone, (seen, one) in enumerate(zip(look, reversed(ramp), strict=True)):
                off.setdefault(zone, []).append((seen[0] - one.lab[0], float(difference(seen, one.lab))))
        flat = [one for zone in off.values() for one in zone]
        near = sum(1 for light, apart in flat if abs(light) <= NEAR_L and apart <= NEAR_E) / len(flat)
        said = "  ".join(
            f"{statistics.median(light for light, _ in zone):5.1f} {max((light for light, _ in zone), key=abs):5.1f}"
            for zone in off.values()
        )
        print(f"{f'{code} {school.name}':34}{said:32}{near:6.0%}", flush=True)


def main() -> None:
    pens()
    schools()
    ramps()


if __name__ == "__main__":
    main()
