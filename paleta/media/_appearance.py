"""What light comes back from a paper under coats of marker, watercolour or pencil.

Marker: dye in the paper, light passes it down and up again (Beer-Lambert), so coats multiply and can only darken.
Watercolour: pigment and paper share absorption over scattering (one-constant Kubelka-Munk, [Kubelka1931]); dilution
scales the pigment's part, and the paint's surface throws light back inwards ([Saunderson1942]). Pencil: grains cover a
share of the paper ([Murray1936]), light spreads between them ([Yule1951]); white pencil therefore lightens toned paper.
Water-soluble pens are pigment, as watercolour is. Blended ink covers a part of the paper for good.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab
from paleta.errors import SwatchError
from paleta.media._spectrum import DARKEST, lab_to_reflectance, reflectance_to_lab
from paleta.media._swatch import Paper, Swatch

Floats = NDArray[np.float64]
YULE_NIELSEN_N = 2.0
"""2 is the limit of full light spreading in paper; [Yule1951]."""
INKPAD_COVER = 0.5
"""Share of the paper that blended ink covers for good; from memory, common practice (half opaque)."""
EVEN_COVERAGE = 0.7
"""Share of the paper that one layer at even pressure covers. From memory, common practice."""
GLOSS_SEEN, THROWN_BACK = 0.0, 0.4
"""k1 and k2 of a paint's surface. Instruments leave the gloss out; 0.4 is the low end of what is given for smooth
films, as dry watercolour is matt. From memory."""
BLENDER_LEAVES = 0.35
"""Part of the dye that a colourless blender leaves in place. From memory."""
WASHES = {"half": 0.42, "thin": 0.16}
"""Concentrations of the usual thinner washes. From memory, common practice."""


@dataclass(frozen=True, slots=True)
class Layer:
    """One laying of a swatch.

    coats     how often, >= 0; fractions are partly melted coats.
    dilution  watercolour: concentration, 1 = full strength, 0 = clean water.
    pressure  pencil: 1 = even, up to 1.4 = firm, 0 = not touching.
    """

    swatch: Swatch
    coats: float = 1
    dilution: float = 1.0
    pressure: float = 1.0

    def __post_init__(self) -> None:
        if not 0 <= self.coats <= 20:
            raise SwatchError(f"coats must lie in 0..20, got {self.coats}.")
        if not 0 <= self.dilution <= 1:
            raise SwatchError(f"dilution must lie in 0..1, got {self.dilution}.")
        if not 0 <= self.pressure <= 1.4:
            raise SwatchError(f"pressure must lie in 0..1.4, got {self.pressure}.")


def appearance(swatch: Swatch, paper: Paper, *, coats: float = 1, dilution: float = 1.0, pressure: float = 1.0) -> Lab:
    """L*a*b* of `swatch` laid on `paper`.

    With one full coat on the paper it was measured on this is the measured colour (moved into sRGB if outside).

    Raises
    ------
    SwatchError
        If coats, dilution or pressure are out of range.
    """
    return appearance_of_layers([Layer(swatch, coats, dilution, pressure)], paper)


def appearance_of_layers(layers: Sequence[Layer], paper: Paper) -> Lab:
    """L*a*b* of several layings over each other, first one lowest; no layers show the paper."""
    reflectance = lab_to_reflectance(paper.lab)
    for layer in layers:
        reflectance = OPTICS[layer.swatch.medium](reflectance, layer)
    lab = reflectance_to_lab(reflectance)
    return float(lab[0]), float(lab[1]), float(lab[2])


def tip_to_tip(one: Swatch, other: Swatch, paper: Paper, *, share: float = 0.5) -> Lab:
    """Two markers touched tip to tip: what their mixed dyes let through, `share` of the second.

    By Beer-Lambert the logarithms of their transmittances add up in proportion, so the mix is their weighted geometric
    mean ([Beer1852]).

    Raises
    ------
    SwatchError
        If one is no marker, or share is not in 0..1.
    """
    if one.medium != "marker" or other.medium != "marker":
        raise SwatchError("Only markers are touched tip to tip.")
    if not 0 <= share <= 1:
        raise SwatchError(f"share must lie in 0..1, got {share}.")
    return appearance_of_layers([Layer(one, coats=1 - share), Layer(other, coats=share)], paper)


def blended(swatch: Swatch, paper: Paper) -> Lab:
    """A marker pushed back with a colourless blender: part of its dye is carried off."""
    return appearance(swatch, paper, coats=BLENDER_LEAVES)


def washes(swatch: Swatch) -> list[Swatch]:
    """A watercolour at full strength and as thinner washes; any other swatch as it is.

    Paint has no pale pans: the pale shades of a ramp are the same paint with more water.
    """
    if swatch.medium != "watercolour":
        return [swatch]
    return [
        swatch,
        *(
            replace(
                swatch,
                code=f"{swatch.code}-{word}",
                name=f"{swatch.name}, {word} wash",
                lab=_rounded(appearance(swatch, swatch.paper, dilution=dilution)),
            )
            for word, dilution in WASHES.items()
        ),
    ]


def _rounded(lab: Lab) -> Lab:
    return round(lab[0], 1), round(lab[1], 1), round(lab[2], 1)


def _lay_marker(below: Floats, layer: Layer) -> Floats:
    measured, paper = lab_to_reflectance(layer.swatch.lab), lab_to_reflectance(layer.swatch.paper.lab)
    passed_twice = np.clip(measured / paper, DARKEST, 1.0)
    return np.maximum(below * passed_twice ** _coats_felt(layer, passed_twice, paper), DARKEST)


def _coats_felt(layer: Layer, passed_twice: Floats, paper: Floats) -> float:
    """Where two coats were measured, a coat more counts as much as it did there; else as much as the first."""
    two = layer.swatch.two_coats
    if two is None or layer.coats <= 1:
        return layer.coats
    # Least squares over the spectrum: which power of one coat's transmittance gives the two coats'?
    one, both = np.log(passed_twice), np.log(np.clip(lab_to_reflectance(two) / paper, DARKEST, 1.0))
    power = float(one @ both / max(float(one @ one), 1e-9))
    return float(1 + (layer.coats - 1) * np.clip(power - 1, 0, 3))


def k_over_s(reflectance: Floats) -> Floats:
    """Absorption over scattering of an opaque layer, (1 - R)^2 / 2R. [Kubelka1931]"""
    return (1 - reflectance) ** 2 / (2 * reflectance)


def reflectance_of(ratio: Floats) -> Floats:
    """The inverse of `k_over_s`, 1 + q - sqrt(q^2 + 2q). [Kubelka1931]"""
    return 1 + ratio - np.sqrt(ratio**2 + 2 * ratio)


def seen_through_surface(inner: Floats, *, outside: float = GLOSS_SEEN, inside: float = THROWN_BACK) -> Floats:
    """What is measured above a paint film of reflectance `inner`: k1 + (1 - k1)(1 - k2) R / (1 - k2 R).

    `outside` (k1) is the gloss that the instrument sees, `inside` (k2) what the surface throws back. [Saunderson1942]
    """
    return outside + (1 - outside) * (1 - inside) * inner / (1 - inside * inner)


def below_surface(measured: Floats, *, outside: float = GLOSS_SEEN, inside: float = THROWN_BACK) -> Floats:
    """The inverse of `seen_through_surface`."""
    return (measured - outside) / ((1 - outside) * (1 - inside) + inside * (measured - outside))


def _lay_watercolour(below: Floats, layer: Layer) -> Floats:
    measured, paper = lab_to_reflectance(layer.swatch.lab), lab_to_reflectance(layer.swatch.paper.lab)
    full, bare, lower = (k_over_s(below_surface(one)) for one in (measured, paper, below))
    pigment = np.maximum(full - bare, 0.0)
    film = reflectance_of(lower + layer.coats * layer.dilution * pigment)
    return np.maximum(seen_through_surface(film), DARKEST)


def _lay_inkpad(below: Floats, layer: Layer) -> Floats:
    """Chalky blending ink is half opaque: of every coat a share covers what lies below in the deep colour of the ink,
    the rest stains it. Coats come nearer and nearer to one colour, on paper from above, on what is darker from below.

    One coat on the paper it was measured on is the measured colour.
    """
    measured, paper = lab_to_reflectance(layer.swatch.lab), lab_to_reflectance(layer.swatch.paper.lab)
    deep = measured * np.minimum(measured / paper, 1.0)
    left = np.clip((measured - INKPAD_COVER * deep) / ((1 - INKPAD_COVER) * paper), 0.0, 1.0)
    deep = np.clip((measured - (1 - INKPAD_COVER) * left * paper) / INKPAD_COVER, DARKEST, 1.0)
    kept = (1 - INKPAD_COVER) * left
    limit = INKPAD_COVER * deep / (1 - kept)
    return np.clip(limit + kept**layer.coats * (below - limit), DARKEST, 1.0)


def _lay_pencil(below: Floats, layer: Layer) -> Floats:
    root = 1 / YULE_NIELSEN_N
    measured, paper = lab_to_reflectance(layer.swatch.lab), lab_to_reflectance(layer.swatch.paper.lab)
    even = _coverage(measured**root, paper**root)
    solid = np.clip((measured**root - (1 - even) * paper**root) / even, DARKEST**root, 1.0)
    once = min(1.0, even * layer.pressure)
    covered = 1 - (1 - once) ** layer.coats
    return (covered * solid + (1 - covered) * below**root) ** YULE_NIELSEN_N


def _coverage(measured: Floats, paper: Floats) -> float:
    """Share of the paper that one even layer covers: as usual, or as much more as a colour so dark, or so much paler
    than its paper, needs. Both are roots, as [Yule1951] adds them."""
    darker = (paper - measured) / (paper - DARKEST ** (1 / YULE_NIELSEN_N))
    paler = (measured - paper) / np.maximum(1 - paper, 1e-6)
    return float(min(1.0, max(EVEN_COVERAGE, darker.max(), paler.max())))


OPTICS: dict[str, Callable[[Floats, Layer], Floats]] = {
    "marker": _lay_marker,
    "watercolour": _lay_watercolour,
    "pencil": _lay_pencil,
    "soluble": _lay_watercolour,
    "inkpad": _lay_inkpad,
}
