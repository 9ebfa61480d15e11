"""How a swatch looks on a paper."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from paleta.colour import Lab
from paleta.errors import SwatchError
from paleta.materials import Paper
from paleta.media._layer import Layer
from paleta.media._optics import spectrum_of
from paleta.media._registry import MEDIUMS
from paleta.media._spectrum import reflectance_to_lab
from paleta.media._swatch import Swatch

PALER = 1.0
"""In L*; less is the doubt of any measurement."""
BLENDER_LEAVES = 0.35
"""Part of the dye that a colourless blender leaves in place. From memory."""


def appearance(swatch: Swatch, paper: Paper, *, coats: float = 1, dilution: float = 1.0, pressure: float = 1.0) -> Lab:
    """L*a*b* of `swatch` laid on `paper`.

    On the paper it was measured on this is what was measured: one coat, and two coats, diluted, light and firm pressure
    where they are known.

    Parameters
    ----------
    swatch
        As measured on a paper of its own.
    paper
        What it is laid on here.
    coats
        How many, 0..20; parts of a coat are thin ones.
    dilution
        Concentration of a wash, 0..1.
    pressure
        Of a pencil, 0..FIRM_PRESSURE; 1 is even.

    Raises
    ------
    SwatchError
        If coats, dilution or pressure are out of range.
    """
    return appearance_of_layers([Layer(swatch, coats, dilution, pressure)], paper)


@lru_cache(maxsize=50_000)
def seen_on(swatch: Swatch, paper: Paper | None) -> Lab:
    """L*a*b* of one coat on `paper`, as measured where that is its own or none is named.

    Parameters
    ----------
    swatch
        As measured on a paper of its own.
    paper
        What it is laid on here.
    """
    return swatch.lab if paper is None or paper.lab == swatch.paper.lab else appearance(swatch, paper)


def appearance_of_layers(layers: Sequence[Layer], paper: Paper) -> Lab:
    """L*a*b* of several layings over each other, first one lowest; no layers show the paper.

    Parameters
    ----------
    layers
        Swatches with coats, dilution and pressure.
    paper
        What they lie on.
    """
    reflectance = spectrum_of(paper.lab)
    for layer in layers:
        reflectance = MEDIUMS[layer.swatch.medium].optics(reflectance, layer)
    lab = reflectance_to_lab(reflectance)
    return float(lab[0]), float(lab[1]), float(lab[2])


def tip_to_tip(one: Swatch, other: Swatch, paper: Paper, *, share: float = 0.5) -> Lab:
    """Two markers touched tip to tip: one coat of both dyes, `share` of the second.

    Their absorption over scattering adds up in proportion ([Kubelka1931]).

    Parameters
    ----------
    one, other
        Markers.
    paper
        What they are laid on.
    share
        Of the second, 0..1.

    Raises
    ------
    SwatchError
        If one is no marker, or share is not in 0..1.
    """
    if one.medium != other.medium or not MEDIUMS[one.medium].mixes_by_tip:
        raise SwatchError("Only markers are touched tip to tip.")
    if not 0 <= share <= 1:
        raise SwatchError(f"share must lie in 0..1, got {share}.")
    return appearance_of_layers([Layer(one, coats=1 - share), Layer(other, coats=share)], paper)


def blended(swatch: Swatch, paper: Paper) -> Lab:
    """A marker pushed back with a colourless blender: part of its dye is carried off.

    Parameters
    ----------
    swatch
        A marker.
    paper
        What it lies on.
    """
    return appearance(swatch, paper, coats=BLENDER_LEAVES)


def covers_of(swatch: Swatch) -> float | None:
    """The share of what is below that one even layer covers for good; None for what is transparent."""
    if swatch.opacity is not None:
        return swatch.opacity
    return MEDIUMS[swatch.medium].covers


def doubt_of(swatch: Swatch) -> str:
    """What cannot be true of a swatch as it was measured, in a sentence; empty if nothing is."""
    above = swatch.lab[0] - swatch.paper.lab[0]
    if not MEDIUMS[swatch.medium].transparent or swatch.opacity or above <= PALER:
        return ""
    return (
        f"{swatch.name} is paler than its paper by {above:.0f}, which no transparent colour can be: it will show as "
        "the paper. Measure it again, or say how opaque it is."
    )
