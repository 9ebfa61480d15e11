"""What light comes back from a surface once a layer of a medium lies on it, as spectra.

Marker: dye in the paper, which shares its absorption over scattering (one-constant Kubelka-Munk, [Kubelka1931]), so it
can only darken; and paper takes up only so much. Watercolour: pigment shares the paper's likewise; dilution scales its
part, and the paint's surface throws light back inwards ([Saunderson1942]), which is asked of dye in paper too; of a
thin wash a share settles in the paper's grain, as pencil does. Pencil:
grains cover a share of the paper ([Murray1936]), light spreads between them ([Yule1951]); white pencil therefore
lightens toned paper.
Water-soluble pens are pigment, as watercolour is. Blended ink covers a part of the paper for good, and so does whatever
is said to be opaque. What was measured of a swatch beside its one coat bends these curves so that they pass through it.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab
from paleta.media._layer import Layer
from paleta.media._spectrum import DARKEST, lab_to_reflectance, reflectance_to_lab
from paleta.media._swatch import DILUTED, FIRM_PRESSURE, LIGHT_PRESSURE, Swatch

Floats = NDArray[np.float64]
YULE_NIELSEN_N = 2.0
"""2 is the limit of full light spreading in paper; [Yule1951]."""
INKPAD_COVER = 0.5
"""Share of the paper that blended ink covers for good; from memory, common practice (half opaque)."""
SETTLES = 0.8
"""Share of a thin wash's pigment that settles in the paper's grain. Without it a thin blue turns green, as a smooth
spectrum knows nothing of the red that blue pigments reflect. From memory; no dilution series was at hand."""
EVEN_COVERAGE = 0.7
"""Share of the paper that one layer at even pressure covers. From memory, common practice."""
LEAST_BODY, WHITE_BODY, PALE_CHROMA = 0.3, 0.9, 30.0
"""How much of a pencil's grain hides what it lies on: of strong or dark colours, of white, and the chroma at which a
pale one has lost a third of the way from one to the other. Common practice is that white covers best, pastels next, and
yellow over black is hardly seen; the numbers are from memory."""
HIGHEST = 1.15
"""Of a grain's root reflectance. The smooth spectrum of a pale strong colour is a little above its white paper in one
band; without some room there it would have to cover all of it to be so."""
FULL_COATS, MORE_COATS = 2.0, 0.3
"""Coats of marker that paper takes up whole, and how much of one more it ever holds of all others (common practice: a
third coat hardly darkens). From memory."""
GLOSS_SEEN, THROWN_BACK = 0.0, 0.4
"""k1 and k2 of a paint's surface. Instruments leave the gloss out; 0.4 is the low end of what is given for smooth
films, as dry watercolour is matt. From memory."""


@lru_cache(maxsize=20_000)
def spectrum_of(lab: Lab, *below: Lab) -> Floats:
    """Reflectance of a measured colour; of an ink that lets what is `below` through (first the coat under it, last the
    paper) it is nowhere above that. Kept, because the same pens are looked at again and again.

    Parameters
    ----------
    lab
        L*a*b* as measured
    below
        L*a*b* of what it was laid on: first the coat under it, last the paper; none for what lets nothing through
    """
    spectrum = lab_to_reflectance(lab, spectrum_of(*below) if below else 1.0)
    spectrum.flags.writeable = False
    return spectrum


def _through(amount: float, *known: tuple[float, Floats]) -> Floats:
    """The curve from nothing at 0 through the `known` points, each an amount and its value, never falling and going on
    as at its end."""
    (before, low), (after, high) = (0.0, np.zeros_like(known[0][1])), known[0]
    for at, value in known[1:]:
        if amount <= after:
            break
        (before, low), (after, high) = (after, high), (at, np.maximum(value, high))
    return low + (high - low) * (amount - before) / (after - before)


def lay_marker(below: Floats, layer: Layer) -> Floats:
    """Dye soaks into the paper and shares its absorption over scattering, as pigment does; but the paper takes up only
    so much of it.

    Parameters
    ----------
    below
        reflectance by band of what lies below
    layer
        the swatch and how it is laid

    Returns
    -------
    Reflectance by band.
    """
    swatch = layer.swatch
    bare = k_over_s(below_surface(spectrum_of(swatch.paper.lab)))

    def dye(*coats: Lab) -> Floats:
        return np.maximum(k_over_s(below_surface(spectrum_of(*coats, swatch.paper.lab))) - bare, 0.0)

    known = [(1.0, dye(swatch.lab))]
    if swatch.two_coats is not None:
        known.append((2.0, dye(swatch.two_coats, swatch.lab)))
    taken = _through(_taken_up(layer.coats), *known)
    return np.maximum(seen_through_surface(reflectance_of(k_over_s(below_surface(below)) + taken)), DARKEST)


def _taken_up(coats: float) -> float:
    """Coats of dye that the paper holds: two whole ones, of all further ones hardly any."""
    return coats if coats <= FULL_COATS else FULL_COATS + MORE_COATS * (1 - float(np.exp(FULL_COATS - coats)))


def k_over_s(reflectance: Floats) -> Floats:
    """Absorption over scattering of an opaque layer, (1 - R)^2 / 2R. [Kubelka1931]"""
    return (1 - reflectance) ** 2 / (2 * reflectance)


def reflectance_of(ratio: Floats) -> Floats:
    """The inverse of `k_over_s`, 1 + q - sqrt(q^2 + 2q). [Kubelka1931]"""
    return 1 + ratio - np.sqrt(ratio**2 + 2 * ratio)


def seen_through_surface(inner: Floats, *, outside: float = GLOSS_SEEN, inside: float = THROWN_BACK) -> Floats:
    """What is measured above a paint film of reflectance `inner`: k1 + (1 - k1)(1 - k2) R / (1 - k2 R).
    [Saunderson1942]

    Parameters
    ----------
    inner
        reflectance below the surface, by band
    outside
        gloss that the instrument sees, k1
    inside
        what the surface throws back, k2
    """
    return outside + (1 - outside) * (1 - inside) * inner / (1 - inside * inner)


def below_surface(measured: Floats, *, outside: float = GLOSS_SEEN, inside: float = THROWN_BACK) -> Floats:
    """The inverse of `seen_through_surface`.

    Parameters
    ----------
    measured
        reflectance by band, as it is seen
    outside
        gloss that the instrument sees, k1
    inside
        what the surface throws back, k2
    """
    return (measured - outside) / ((1 - outside) * (1 - inside) + inside * (measured - outside))


def lay_watercolour(below: Floats, layer: Layer) -> Floats:
    """Pigment shares the paper's absorption over scattering; of a wash thinner than any measured a share settles in
    the grain.

    Parameters
    ----------
    below
        reflectance by band of what lies below
    layer
        the swatch and how it is laid

    Returns
    -------
    Reflectance by band.
    """
    swatch, amount = layer.swatch, layer.coats * layer.dilution
    paper = spectrum_of(swatch.paper.lab)
    bare = k_over_s(below_surface(paper))

    def pigment(*coats: Lab) -> Floats:
        return np.maximum(k_over_s(below_surface(spectrum_of(*coats, swatch.paper.lab))) - bare, 0.0)

    known = [(1.0, pigment(swatch.lab))]
    if swatch.diluted is not None:
        known.insert(0, (DILUTED, pigment(swatch.diluted)))
    if swatch.two_coats is not None:
        known.append((2.0, pigment(swatch.two_coats, swatch.lab)))
    thinnest = known[0][0]

    def film(ground: Floats, how_much: float) -> Floats:
        lower = k_over_s(below_surface(ground))
        return np.maximum(seen_through_surface(reflectance_of(lower + _through(how_much, *known))), DARKEST)

    opacity = swatch.opacity or 0.0
    if not opacity:
        wash = film(below, amount)
        return wash if amount >= thinnest else _settled(wash, film(below, thinnest), below)
    # Of an opaque paint a share lies as a skin of its own colour, which may be paler than what is below.
    skin = np.clip((spectrum_of(swatch.lab) - (1 - opacity) * film(paper, 1.0)) / opacity, DARKEST, 1.0)
    covered = 1 - (1 - opacity) ** amount
    return covered * skin + (1 - covered) * film(below, amount)


def _settled(wash: Floats, full: Floats, below: Floats) -> Floats:
    """A wash thinner than any that was measured: part of its pigment lies evenly, the rest has settled in the paper's
    grain and leaves paper between, as light as an even wash on the whole."""
    even, grains, bare = (np.sqrt(one) for one in (wash, full, below))
    room = float((bare - grains).mean())
    covered = float((bare - even).mean()) / room if room > 1e-6 else 0.0
    return (SETTLES * (covered * grains + (1 - covered) * bare) + (1 - SETTLES) * even) ** YULE_NIELSEN_N


def lay_inkpad(below: Floats, layer: Layer) -> Floats:
    """Chalky blending ink is half opaque: of every coat a share covers what lies below in the colour of the ink, the
    rest stains it. Coats come nearer and nearer to one colour, on paper from above, on what is darker from below.

    Parameters
    ----------
    below
        reflectance by band of what lies below
    layer
        the swatch and how it is laid

    Returns
    -------
    Reflectance by band.
    """
    swatch = layer.swatch
    measured, paper = spectrum_of(swatch.lab), spectrum_of(swatch.paper.lab)
    cover = np.clip(INKPAD_COVER if swatch.opacity is None else swatch.opacity, 0.05, 1.0)
    kept = (1 - cover) * np.minimum(measured / paper, 1.0)
    if swatch.two_coats is not None:
        # What one coat left of the way to the paper, a second one leaves of that.
        way = paper - measured
        felt = (measured - spectrum_of(swatch.two_coats)) / np.where(way > 1e-3, way, 1.0)
        kept = np.where(way > 1e-3, np.clip(felt, 0.0, 0.98), kept)
    limit = np.clip((measured - kept * paper) / (1 - kept), 0.0, 1.0)
    return np.clip(limit + kept**layer.coats * (below - limit), DARKEST, 1.0)


def lay_pencil(below: Floats, layer: Layer) -> Floats:
    """Grains lie on a share of what is below, as much as the pencil is pressed; light spreads between them. Wax is no
    paint: through a grain shines what it lies on, the more the stronger its colour.

    Parameters
    ----------
    below
        reflectance by band of what lies below
    layer
        the swatch and how it is laid

    Returns
    -------
    Reflectance by band.
    """
    covered, solid = _grains(layer.swatch, layer.pressure)
    body = _body(layer.swatch)
    paper = spectrum_of(layer.swatch.paper.lab) ** (1 / YULE_NIELSEN_N)
    # On its own paper this is the grain as it was measured, whatever its body.
    through = np.minimum(solid / paper, 1.0) * below ** (1 / YULE_NIELSEN_N)
    grain = solid + (1 - body) * (through - np.minimum(solid, paper))
    # A part of a coat covers its part; whole ones cover what was left bare by those before.
    covered = covered * layer.coats if layer.coats < 1 else 1 - (1 - covered) ** layer.coats
    laid = (covered * grain + (1 - covered) * below ** (1 / YULE_NIELSEN_N)) ** YULE_NIELSEN_N
    return np.clip(laid, DARKEST, 1.0)


@lru_cache(maxsize=20_000)
def _body(swatch: Swatch) -> float:
    """How much of a pencil's grain is a skin of its own colour, 0..1; through the rest shines what it lies on. White
    has most of it; the darker and the more chromatic a pencil, the less. It runs smoothly over all colours."""
    _, solid = _grains(swatch, 1.0)
    lightness, a, b = (float(one) for one in reflectance_to_lab(solid**YULE_NIELSEN_N))
    pale = max(0.0, lightness / 100) ** 2 * float(np.exp(-((np.hypot(a, b) / PALE_CHROMA) ** 2)))
    return LEAST_BODY + (WHITE_BODY - LEAST_BODY) * min(1.0, pale)


def _grains(swatch: Swatch, pressure: float) -> tuple[float, Floats]:
    """Share of the paper that one layer's grains cover, and their colour as a root, as [Yule1951] adds them: what was
    measured at one pressure or more, and between them something between."""
    measured = {LIGHT_PRESSURE: swatch.light_pressure, 1.0: swatch.lab, FIRM_PRESSURE: swatch.firm_pressure}
    paper = spectrum_of(swatch.paper.lab) ** (1 / YULE_NIELSEN_N)
    even = EVEN_COVERAGE if swatch.opacity is None else swatch.opacity
    known = []
    for at, lab in measured.items():
        if lab is not None:
            seen = spectrum_of(lab) ** (1 / YULE_NIELSEN_N)
            share = _coverage(seen, paper, min(1.0, even * at))
            solid = np.clip((seen - (1 - share) * paper) / share, DARKEST ** (1 / YULE_NIELSEN_N), HIGHEST)
            known.append((at, share, solid))
    at, share, solid = known[0]
    if pressure <= at:
        return share * pressure / at, solid
    for (low, share, solid), (high, more, deeper) in pairwise(known):
        if pressure <= high:
            part = (pressure - low) / (high - low)
            return (1 - part) * share + part * max(more, share), (1 - part) * solid + part * deeper
    at, share, solid = known[-1]
    return min(1.0, share * pressure / at), solid


def _coverage(measured: Floats, paper: Floats, usual: float) -> float:
    """Share of the paper that a layer covers: as usual, or as much more as a colour so dark, or so much paler than its
    paper, needs."""
    darker = (paper - measured) / (paper - DARKEST ** (1 / YULE_NIELSEN_N))
    paler = (measured - paper) / (HIGHEST - paper)
    return float(min(1.0, max(usual, 0.05, darker.max(), paler.max())))
