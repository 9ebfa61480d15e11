"""Light on shapes whose exact surface is known, drawn as line art, found, and formed as guessed.

    .venv/bin/python -m tools.bench.light

Rank correlation of Paleta's light with that of the exact solid, how far off the light's direction is read, and how much
of the shadows that half balls cast on level ground is found.
Half of the shapes were never looked at while forms were worked on (held back: their seeds are others).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.stats import spearmanr

from paleta.checks import light_directions
from paleta.impression import Impression, RegionMap, find_regions
from paleta.light import SCALE, Body, Lamp, guess_bodies, illuminate, model_forms

SHAPES = 20
SHADOWS = "cast shadow found"
SIZE_PX, DPI, LINE_PX = 700, 300.0, 5
LOOKED_AT, HELD_BACK = 11, 907
Field = NDArray[np.float64]


@dataclass(frozen=True)
class Solid:
    """A shape by its exact squared height u over the picture, 0 outside; height is its root."""

    u: Field
    outlines: list[NDArray[np.int32]]
    inside: tuple[int, int]


def _ellipse(chance: np.random.Generator, a: float, b: float) -> Solid:
    angle = chance.uniform(0, np.pi)
    y, x = np.mgrid[:SIZE_PX, :SIZE_PX] - SIZE_PX / 2.0
    along, across = x * np.cos(angle) + y * np.sin(angle), y * np.cos(angle) - x * np.sin(angle)
    c = 2 * a**2 * b**2 / (a**2 + b**2)
    middle = SIZE_PX // 2
    turn = np.linspace(0, 2 * np.pi, 400)
    px = middle + a * np.cos(turn) * np.cos(angle) - b * np.sin(turn) * np.sin(angle)
    py = middle + a * np.cos(turn) * np.sin(angle) + b * np.sin(turn) * np.cos(angle)
    line = np.stack([px, py], axis=1).round().astype(np.int32)
    return Solid(np.maximum(c * (1 - (along / a) ** 2 - (across / b) ** 2), 0), [line], (middle, middle))


def disc(chance: np.random.Generator) -> Solid:
    radius = chance.uniform(60, 280)
    return _ellipse(chance, radius, radius)


def ellipse(chance: np.random.Generator) -> Solid:
    a = chance.uniform(120, 280)
    return _ellipse(chance, a, a * chance.uniform(0.45, 0.85))


def strip(chance: np.random.Generator) -> Solid:
    """A straight tube: the half cylinder."""
    angle, length, half = chance.uniform(0, np.pi), chance.uniform(200, 300), chance.uniform(24, 60)
    y, x = np.mgrid[:SIZE_PX, :SIZE_PX] - SIZE_PX / 2.0
    along, across = x * np.cos(angle) + y * np.sin(angle), y * np.cos(angle) - x * np.sin(angle)
    u = np.where(np.abs(along) < length, np.maximum(half**2 - across**2, 0), 0)
    corners = np.array([(-length, -half), (length, -half), (length, half), (-length, half)])
    turned = corners @ np.array([(np.cos(angle), np.sin(angle)), (-np.sin(angle), np.cos(angle))]) + SIZE_PX / 2
    return Solid(u, [turned.round().astype(np.int32)], (SIZE_PX // 2, SIZE_PX // 2))


def ring(chance: np.random.Generator) -> Solid:
    """Held at both rims: u = r2^2 - r^2 + (r2^2 - r1^2) ln(r2 / r) / ln(r1 / r2)."""
    outer = chance.uniform(180, 300)
    inner = outer * chance.uniform(0.4, 0.8)
    y, x = np.mgrid[:SIZE_PX, :SIZE_PX] - SIZE_PX / 2.0
    r = np.maximum(np.hypot(x, y), 1)
    u = outer**2 - r**2 + (outer**2 - inner**2) * np.log(outer / r) / np.log(inner / outer)
    turn = np.linspace(0, 2 * np.pi, 400)
    circles = [
        (SIZE_PX / 2 + radius * np.stack([np.cos(turn), np.sin(turn)], axis=1)).round().astype(np.int32)
        for radius in (outer, inner)
    ]
    middle = SIZE_PX // 2
    return Solid(
        np.where((r > inner) & (r < outer), np.maximum(u, 0), 0), circles, (middle, middle + int((inner + outer) / 2))
    )


KINDS: dict[str, tuple[Callable[[np.random.Generator], Solid], float]] = {
    "discs": (disc, 0.998),
    "ellipses": (ellipse, 0.995),
    "strips": (strip, 0.99),
    "rings": (ring, 0.99),
}
"""Each with the rank correlation aimed at."""
BEFORE = {"strips": 0.82, "rings": 0.24, SHADOWS: 0.85}
"""As measured from outside, on other shapes."""


def exact_light(solid: Solid, lamp: Lamp) -> Field:
    """Lambert's cosine on the exact surface."""
    uy, ux = np.gradient(solid.u)
    height = np.sqrt(np.maximum(solid.u, 0.25))
    normal = np.stack([-ux / 2, -uy / 2, height], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    return np.clip(normal @ np.array(lamp.direction), 0, 1)


def tried(kind: str, seed: int) -> Iterator[tuple[float, float]]:
    """(rank correlation, degrees the direction is off) for every shape of a kind."""
    make, _ = KINDS[kind]
    for number in range(SHAPES):
        chance = np.random.default_rng([seed, number])
        solid = make(chance)
        lamp = Lamp(azimuth_deg=float(chance.uniform(0, 360)), elevation_deg=float(chance.uniform(25, 60)), ambient=0)
        art = np.full((SIZE_PX, SIZE_PX), 255, np.uint8)
        cv2.polylines(art, solid.outlines, True, 0, LINE_PX, cv2.LINE_AA)
        pixels = np.repeat((art / 255).astype(np.float32)[..., None], 3, axis=2)
        found = find_regions(Impression(pixels=pixels, dpi=DPI))
        bodies = guess_bodies(found)
        relief = model_forms(found, bodies)
        light = illuminate(relief, lamp, full_size=False, shadows=False)
        labels = np.ascontiguousarray(found.labels[::SCALE, ::SCALE])
        label = int(found.labels[solid.inside])
        seen = (labels == label) & (solid.u[::SCALE, ::SCALE] > (3 * LINE_PX) ** 2)
        wanted = exact_light(solid, lamp)[::SCALE, ::SCALE]
        order = float(spearmanr(light[seen], wanted[seen]).statistic)
        place = next(at for at, body in enumerate(bodies) if label in body.regions)
        read = light_directions(light, labels, bodies)[place]
        off = abs((read - lamp.azimuth_deg + 180) % 360 - 180) if read is not None else 180.0
        yield order, off


def shadows(seed: int) -> Iterator[tuple[float, float]]:
    """(share of the exact shadow found, share of the found one that is right) for half balls on level ground: a ray
    that meets the ball is blocked."""
    for number in range(SHAPES):
        chance = np.random.default_rng([seed, 77, number])
        radius = chance.uniform(30, 160)
        x, y = np.mgrid[:SIZE_PX, :SIZE_PX][::-1] - chance.uniform(200, SIZE_PX - 200, 2)[:, None, None]
        labels = np.where(np.hypot(x, y) < radius, 2, 1).astype(np.int32)
        found = RegionMap(labels=labels, ink=np.zeros(labels.shape, bool), dpi=DPI)
        lamp = Lamp(azimuth_deg=float(chance.uniform(0, 360)), elevation_deg=float(chance.uniform(20, 60)), ambient=0)
        relief = model_forms(found, [Body((1,), form="flat"), Body((2,), form="dome", depth=1)])
        lit, shaded = (illuminate(relief, lamp, full_size=False, shadows=cast) for cast in (False, True))
        ahead = x * lamp.direction[0] + y * lamp.direction[1]
        exact = ((ahead < 0) & (ahead**2 >= x**2 + y**2 - radius**2) & (labels == 1))[::SCALE, ::SCALE]
        seen = (shaded < 0.6 * lit) & (labels[::SCALE, ::SCALE] == 1)
        both = np.count_nonzero(seen & exact)
        yield both / np.count_nonzero(exact), both / max(np.count_nonzero(seen), 1)


def main() -> None:
    heads = "".join(f"{one:>9}" for one in ("before", "mean", "worst", "aim"))
    print(f"\n{'light, rank correlation with exact solids':44}{heads}   direction off, p90")
    for words, seed in (("", LOOKED_AT), (", held back", HELD_BACK)):
        for kind, (_, aim) in KINDS.items():
            found = np.array(list(tried(kind, seed)))
            turned = f"{np.percentile(found[:, 1], 90):.1f} degrees (aim 1.5)" if kind == "discs" else ""
            mean, worst = found[:, 0].mean(), found[:, 0].min()
            print(f"{kind + words:44}{BEFORE.get(kind, ''):>9}{mean:9.4f}{worst:9.4f}{aim:9.3f}   {turned}", flush=True)
        cast = np.array(list(shadows(seed)))
        print(
            f"{SHADOWS + words:44}{BEFORE[SHADOWS]:9}{cast[:, 0].mean():9.4f}{cast[:, 0].min():9.4f}{0.95:9.3f}"
            f"   right where found {cast[:, 1].mean():.3f}",
            flush=True,
        )


if __name__ == "__main__":
    main()
