"""The search for ramps: shortest paths through the drawer, palest to darkest.

For a given size of step the best ramp is a cheapest path through n layers of candidates: each swatch has a price
for how far it lies from the lightness, hue and chroma wanted there, each pair for how uneven its step is. That is
solved exactly (Viterbi's dynamic programme, [Viterbi1967]) for several step sizes; the best of all come first.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab, check_lab
from paleta.errors import WishError
from paleta.materials import Paper
from paleta.media import Swatch, seen_on, split_code
from paleta.palette._ramp import SMALL_STEP, WIDE_STEP, Ramp, judge

Floats = NDArray[np.float64]
SHADE_HUES = {"keep": "keeps its hue", "cooler": "leans cool", "warmer": "leans warm", "violet": "leans violet"}
MEANT = {"middle": "in the middle", "lightest": "as the palest", "darkest": "as the darkest"}
"""Where in the ramp a wished colour stands."""
AMONG = {"": "whatever fits best", "family": "one family", "pens": "fewest pens"}
"""What the swatches of a ramp are to be taken from."""
STEP_SIZES = (8.0, 10.5, 13.0, 15.0, 17.0, 20.0, 24.0)
PREFERRED_STEP = {2: 18.0, 3: 16.0, 4: 14.0, 5: 12.0}
"""Step that shows and still melts, by number of shades. Common practice, from memory."""
CANDIDATES, LIGHTNESS_BIN = 24, 2.0
"""For every place the best so many swatches are looked at, and the best of every bin of lightness: of a hundred that
are all alike one is enough."""
STRANGER_DEG, COLOURED = 45.0, 10.0
"""Colours of this chroma and more, farther apart in hue than this, belong to no one ramp. From memory."""
NEUTRAL, LILACS, LILAC_CHROMA = 8.0, (265.0, 335.0), 22.0
"""A wish of less chroma is white, grey or black. Its shades are greys and lilacs (common practice); amounts from
memory."""
LEAST_STEP = 2.0
"""Less of a fall in L* is none: it is about what eyes can tell apart in areas that do not touch. From memory."""
LEANS = {"cooler": (280.0, (190.0, 300.0)), "warmer": (75.0, (25.0, 110.0)), "violet": (310.0, LILACS)}
"""The hue that a shade leans to, and which hues then belong to the shades of a white, grey or black. From memory."""
LEANING, LEANING_OVER = 10.0, 30.0
"""Chroma that the shade of a grey has where it leans, and the fall in L* over which it comes to that. From memory."""
DRIFT_PER_L = 0.9
"""Degrees of hue per unit of lightness that a shade leans towards blue or yellow when wished. From memory."""
YELLOW_BROWNS = 0.5
"""The dark of a yellow is an orange brown: degrees a yellow turns per unit of lightness. Common practice."""
STRONGER = 14.0
"""Chroma that a swatch may have beyond twice the wish before it is another kind of colour. From memory."""
TONED = 85.0
"""L* under which a paper keeps pale colours from being pale. From memory."""
ANOTHER_PEN = 0.8
"""Cost of going on with another pen where one was thinned: one pen at several strengths is less work than several, and
melts better. From memory."""
ONE_MORE_PEN = 6.0
"""Cost of every pen taken up for this ramp alone, where fewest pens are wished. With a quarter of a drawer at hand 60
wishes by chance took 141 new pens, and 107 so; five ramps then had an uneven step, with 10 nine had. Measured."""
KINDRED = 0.7
"""Part of a wished chroma below which a colour begins to be a grey beside it. From memory."""
GREYED = 2.0
"""How much more a grey in the place of a colour is amiss than a colour too strong for its place. From memory."""
DIFFERENT = 0.9
"""Cost added to an alternative for each swatch of a better one whose pen it uses too, so that alternatives differ."""


@dataclass(frozen=True, slots=True, eq=False)
class _Wish:
    target: Floats
    n: int
    shade_hue: str
    meant: str

    def __post_init__(self) -> None:
        if self.n not in range(1, 6):
            raise WishError(f"A ramp has 1 to 5 shades, got {self.n}.")
        if self.shade_hue not in SHADE_HUES:
            raise WishError(f"shade_hue must be one of {', '.join(SHADE_HUES)}, got {self.shade_hue!r}.")
        if self.meant not in MEANT:
            raise WishError(f"meant must be one of {', '.join(MEANT)}, got {self.meant!r}.")

    @property
    def place(self) -> int:
        return {"lightest": 0, "middle": (self.n - 1) // 2, "darkest": self.n - 1}[self.meant]


def find_ramps(
    drawer: Sequence[Swatch],
    target_lab: Lab,
    n: int,
    *,
    alternatives: int = 4,
    shade_hue: str = "keep",
    meant: str = "middle",
    step: float | None = None,
    paper: Paper | None = None,
    among: str = "",
    at_hand: Collection[str] = (),
) -> list[Ramp]:
    """Ramps of `n` swatches from `drawer` for a region that should look like `target_lab`, best first.

    Parameters
    ----------
    drawer : sequence of Swatch
    target_lab : L*, a*, b*
    n : 1 to 5
    alternatives : how many to return at most
    shade_hue : a key of SHADE_HUES: which way hues go towards the dark
    meant : the target is the "middle" of the ramp (the paler of two middles when n is even), its "lightest" or its
        "darkest"
    step : wished fall in L* per shade; None tries several
    paper : what it will lie on: ramps are found by how they look there; None: on the swatches' own
    among : a key of AMONG: whatever fits, swatches of "family", or as few "pens" as can be
    at_hand : codes of pens that are taken up for the card anyway; where fewest are wished they cost nothing

    Returns
    -------
    list of Ramp
        Strictly falling in lightness, and no stranger among them: hues of neighbours lie within 45 degrees where there
        is a hue to speak of. Empty if the drawer has no such n swatches; `find_ramps((), lab, 3)` is [].

    Raises
    ------
    WishError
        If n, shade_hue, meant, step or among is out of range.
    """
    wish = _Wish(np.array(target_lab, dtype=float), n, shade_hue, meant)
    if among not in AMONG:
        raise WishError(f"among must be one of {', '.join(filter(None, AMONG))}, got {among!r}.")
    if step is not None and not 2 <= step <= 40:
        raise WishError(f"step must lie in 2..40, got {step}.")
    check_lab(target_lab, "The wished colour")
    sizes = STEP_SIZES if step is None else (step,)
    if among != "family":
        return _found(drawer, wish, sizes, alternatives, paper, at_hand if among == "pens" else None)
    families = {swatch.family: [one for one in drawer if one.family == swatch.family] for swatch in drawer}
    found = (
        _found(family, wish, sizes, alternatives, paper, None) for name, family in sorted(families.items()) if name
    )
    return sorted((ramp for ramps in found for ramp in ramps), key=lambda ramp: ramp.cost)[:alternatives]


def _found(
    drawer: Sequence[Swatch],
    wish: _Wish,
    sizes: Sequence[float],
    alternatives: int,
    paper: Paper | None,
    at_hand: Collection[str] | None,
) -> list[Ramp]:
    """Ramps from the swatches of `drawer`; `at_hand` where every other pen costs."""
    n = wish.n
    if len(drawer) < n:
        return []
    pens = [split_code(swatch.code)[0] for swatch in drawer]
    lab = np.array([seen_on(swatch, paper) for swatch in drawer], dtype=float)
    taken = np.array([0.0 if at_hand is None or pen in at_hand else ONE_MORE_PEN for pen in pens])
    turns = _turns(drawer, taken)
    if paper is not None and paper.lab[0] < TONED:
        # On toned paper nothing is as pale as it is wished: the ramp then goes down from the palest there is.
        palest = float(lab[:, 0].max()) - PREFERRED_STEP.get(n, 0.0) * wish.place
        wish = replace(wish, target=np.minimum(wish.target, (palest, np.inf, np.inf)))
    found = _searched(lab, taken, turns, wish, sizes, alternatives)
    if found and len(set(pens)) < len(pens):
        # One pen at several strengths leaves many ways of hardly any difference: look at what there is beside it.
        first = {pens[i] for i in min(found, key=lambda path: (found[path], path))}
        beside = [i for i, pen in enumerate(pens) if pen not in first]
        if len(beside) >= n:
            others = _searched(lab[beside], taken[beside], turns[np.ix_(beside, beside)], wish, sizes, alternatives)
            found |= {tuple(beside[i] for i in path): cost for path, cost in others.items()}
    chosen = _varied(found, pens, alternatives)
    return [judge([drawer[i] for i in path], cost, paper=paper) for path, cost in chosen]


def _searched(
    lab: Floats, taken: Floats, turns: Floats, wish: _Wish, sizes: Sequence[float], count: int
) -> dict[tuple[int, ...], float]:
    """The best ways through the drawer for each size of step, and what each costs; `taken` is what it costs to begin
    with a swatch, `turns` to go on with another."""
    found: dict[tuple[int, ...], float] = {}
    for size in sizes:
        for path in _paths(lab, taken, turns, wish, size, count):
            others = (float(taken[path[0]]) + sum(float(turns[pair]) for pair in pairwise(path))) / wish.n
            found[path] = min(found.get(path, np.inf), _price(lab[list(path)], wish) + others)
    return {path: cost for path, cost in found.items() if np.isfinite(cost)}


def _turns(drawer: Sequence[Swatch], taken: Floats) -> Floats:
    """n x n: what going on from each swatch to each other one costs for taking up another pen, `taken` for each."""
    pens: dict[str, int] = {}
    split = [split_code(swatch.code) for swatch in drawer]
    pen = np.array([pens.setdefault(code, len(pens)) for code, _ in split])
    weaker = np.array([strength < 1 for _, strength in split])
    another = pen[:, None] != pen[None]
    return np.asarray(ANOTHER_PEN * (another & (weaker[:, None] | weaker[None])) + another * taken[None])


def _varied(
    found: dict[tuple[int, ...], float], pens: Sequence[str], count: int
) -> list[tuple[tuple[int, ...], float]]:
    chosen: list[tuple[tuple[int, ...], float]] = []
    left = dict(found)
    while left and len(chosen) < count:

        def price(path: tuple[int, ...]) -> float:
            own = [pens[i] for i in path]
            shared = max((sum(pens[i] in own for i in other) for other, _ in chosen), default=0)
            return left[path] + DIFFERENT * shared

        best = min(left, key=lambda path: (price(path), path))
        chosen.append((best, left.pop(best)))
    return sorted(chosen, key=lambda item: item[1])


def wanted_labs(target_lab: Lab, n: int, step: float, *, shade_hue: str = "keep", meant: str = "middle") -> Floats:
    """n x 3: the L*a*b* of an ideal ramp for `target_lab`, palest first, falling by `step`.

    Parameters
    ----------
    target_lab
        the wished colour
    n
        1 to 5 shades
    step
        fall in L* from each to the next
    shade_hue
        a key of SHADE_HUES
    meant
        a key of MEANT, where in the ramp the wish stands
    """
    return _wanted(_Wish(np.array(target_lab, dtype=float), n, shade_hue, meant), step)


def _wanted(wish: _Wish, size: float) -> Floats:
    """n x 3: the Lab that each place of the ramp would ideally have, palest first."""
    target = wish.target
    light = target[0] + size * (wish.place - np.arange(wish.n))
    light = np.clip(light, 12, 97)
    chroma, hue = np.hypot(target[1], target[2]), np.degrees(np.arctan2(target[2], target[1])) % 360
    hues = _drift(hue, light - target[0], wish.shade_hue)
    leaning = chroma < NEUTRAL and wish.shade_hue in LEANS
    # Pale and very dark colours hold less chroma: the solid narrows towards white and black.
    room = np.minimum((100 - light) / max(100 - target[0], 8), 1) * np.minimum((light + 15) / (target[0] + 15), 1)
    chromas = chroma * np.clip(room, 0.12, 1)
    if leaning:
        # What has no hue cannot turn it: its shades take on a little of the one that they lean to.
        share = np.clip((light[0] - light) / LEANING_OVER, 0, 1)
        hues = np.where(share > 0, LEANS[wish.shade_hue][0], hues)
        chromas = np.maximum(chromas, LEANING * share)
    return np.stack([light, chromas * np.cos(np.radians(hues)), chromas * np.sin(np.radians(hues))], axis=1)


def _drift(hue: float, lightness_from_target: Floats, shade_hue: str) -> Floats:
    darker = -lightness_from_target
    turned = np.full(len(darker), hue)
    if 70 <= hue <= 112:
        turned = turned - YELLOW_BROWNS * np.maximum(darker, 0)
    if shade_hue in LEANS:
        goal, _ = LEANS[shade_hue]
        away = (goal - turned + 180) % 360 - 180
        turned = turned + np.sign(away) * np.minimum(np.abs(away), DRIFT_PER_L * np.maximum(darker, 0))
    return turned


def _hue_gap(one: Floats, other: Floats) -> Floats:
    """Degrees of hue between (..., 3) and (..., 3); 0 where either has too little chroma for its hue to matter."""
    apart = np.degrees(np.arctan2(one[..., 2], one[..., 1]) - np.arctan2(other[..., 2], other[..., 1]))
    gap = np.abs((apart + 180) % 360 - 180)
    weaker = np.minimum(np.hypot(one[..., 1], one[..., 2]), np.hypot(other[..., 1], other[..., 2]))
    return np.where(weaker >= COLOURED, gap, 0.0)


def _foreign(lab: Floats, wanted: Floats, target: Floats, shade_hue: str = "keep") -> NDArray[np.bool_]:
    """Swatches that have no place in a ramp for the target: another hue than wanted there; of a white, grey or black
    thing anything coloured that is no lilac, or not of the hues it leans to."""
    if np.hypot(target[1], target[2]) >= NEUTRAL:
        return _hue_gap(lab, wanted) > STRANGER_DEG
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    _, (least, most) = LEANS.get(shade_hue, (0.0, LILACS))
    pale = (hue >= least) & (hue <= most) & (chroma <= LILAC_CHROMA)
    return (chroma >= COLOURED) & ~pale


def _misfit(lab: Floats, wanted: Floats) -> Floats:
    """How far (..., 3) is from `wanted`: lightness first, hue second, chroma last (common practice)."""
    chroma, wish = np.hypot(lab[..., 1], lab[..., 2]), np.hypot(wanted[..., 1], wanted[..., 2])
    across = np.hypot(lab[..., 1] - wanted[..., 1], lab[..., 2] - wanted[..., 2])
    hue_chord = np.sqrt(np.maximum(across**2 - (chroma - wish) ** 2, 0))
    # Much less chroma or twice as much is another kind of colour: a grey has no hue to be wrong in, and is no blue.
    other_kind = np.maximum(KINDRED * wish - chroma, 0) * GREYED + np.maximum(chroma - 2 * wish - STRONGER, 0)
    # Differences between strong colours are seen less, by CIEDE2000's weight of chroma [Sharma2005]; 1 at chroma 20.
    strength = (1 + 0.045 * (chroma + wish) / 2) / (1 + 0.045 * 20)
    return (
        (other_kind / 3) ** 2
        + ((lab[..., 0] - wanted[..., 0]) / 7) ** 2
        + (hue_chord / 5) ** 2
        + ((chroma - wish) / (14 * strength)) ** 2
    )


def _uneven(fall: Floats, size: float) -> Floats:
    cost = ((fall - size) / 5) ** 2
    cost = np.where(fall < SMALL_STEP, cost + 4, cost)
    cost = np.where(fall > WIDE_STEP, cost + 2, cost)
    return np.where(fall < LEAST_STEP, np.inf, cost)


def _unlike(lab_a: Floats, lab_b: Floats, shade_hue: str) -> Floats:
    """Neighbours on a ramp belong together: a grey between two blues would break it, however even the steps."""
    chroma_a, chroma_b = np.hypot(lab_a[..., 1], lab_a[..., 2]), np.hypot(lab_b[..., 1], lab_b[..., 2])
    across = np.hypot(lab_a[..., 1] - lab_b[..., 1], lab_a[..., 2] - lab_b[..., 2])
    hue_chord = np.sqrt(np.maximum(across**2 - (chroma_a - chroma_b) ** 2, 0))
    # A shade that is wished to lean may wander farther from its neighbour in hue.
    return (hue_chord / (12 if shade_hue == "keep" else 36)) ** 2 + ((chroma_a - chroma_b) / 16) ** 2


def _price(lab: Floats, wish: _Wish) -> float:
    """What a whole ramp costs, whichever step size found it."""
    n = wish.n
    size = float((lab[0, 0] - lab[-1, 0]) / (n - 1)) if n > 1 else 0.0
    wanted = _wanted(wish, size or 1.0)
    if _foreign(lab, wanted, wish.target, wish.shade_hue).any() or (_hue_gap(lab[:-1], lab[1:]) > STRANGER_DEG).any():
        return float("inf")
    places = _misfit(lab, wanted)
    if n == 1:
        return float(places[0])
    steps = _uneven(-np.diff(lab[:, 0]), size).sum() + _unlike(lab[:-1], lab[1:], wish.shade_hue).sum()
    return float((places.sum() + steps) / n + ((size - PREFERRED_STEP[n]) / 8) ** 2)


def _worth_looking_at(lab: Floats, prices: Floats) -> NDArray[np.intp]:
    """Of each place the cheapest swatches, and the cheapest of every bin of lightness."""
    bins = (lab[:, 0] / LIGHTNESS_BIN).astype(int)
    chosen = []
    for price in prices.T:
        order = np.argsort(price, kind="stable")
        order = order[np.isfinite(price[order])]
        _, first = np.unique(bins[order], return_index=True)
        chosen += [order[:CANDIDATES], order[first]]
    return np.unique(np.concatenate(chosen))


def _paths(lab: Floats, taken: Floats, turns: Floats, wish: _Wish, size: float, count: int) -> list[tuple[int, ...]]:
    """The cheapest path of n falling swatches, and the cheapest that end in other darkest ones."""
    prices = np.stack(
        [
            np.where(_foreign(lab, place, wish.target, wish.shade_hue), np.inf, _misfit(lab, place))
            for place in _wanted(wish, size)
        ],
        axis=1,
    )
    cheap = _worth_looking_at(lab, prices)
    cheap = cheap[np.argsort(-lab[cheap, 0], kind="stable")]
    if not len(cheap):
        return []
    own, light = prices[cheap], lab[cheap, 0]
    pairs = lab[cheap][:, None], lab[cheap][None]
    link = (
        _uneven(light[:, None] - light[None, :], size) + _unlike(*pairs, wish.shade_hue) + turns[np.ix_(cheap, cheap)]
    )
    link[_hue_gap(*pairs) > STRANGER_DEG] = np.inf
    total, came = own[:, 0] + taken[cheap], []
    for place in range(1, wish.n):
        way = total[:, None] + link
        came.append(way.argmin(axis=0))
        total = way.min(axis=0) + own[:, place]
    paths = []
    for end in np.argsort(total, kind="stable")[:count]:
        if not np.isfinite(total[end]):
            break
        path = [int(end)]
        for step_back in reversed(came):
            path.append(int(step_back[path[-1]]))
        paths.append(tuple(int(cheap[i]) for i in reversed(path)))
    return paths
