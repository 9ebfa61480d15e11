"""One swatch at less than its full strength: with more water, with a lighter hand, with less ink on the pad.

A swatch at a strength stands in ramps as a swatch of its own, but it is laid with the same pen, paint or pencil.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from paleta.colour import difference
from paleta.errors import SwatchError
from paleta.media._appearance import appearance, covers_of
from paleta.media._registry import MEDIUMS
from paleta.media._swatch import Swatch, code_at

STRENGTHS = (0.85, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2, 0.12)
"""At which a swatch is proposed: each about as much paler than the one before. By hand any may be chosen."""
LEAST_STRENGTH = 0.05
SEEN = 4.0
"""CIEDE2000 from bare paper; what is nearer to it is hardly colour. From memory."""


def at_strength(swatch: Swatch, strength: float) -> Swatch:
    """The swatch laid at a part of its full strength.

    Strength is told as it looks: half as strong is a quarter of the pigment in the water.

    Parameters
    ----------
    swatch
        At full strength, of a medium that can be laid weaker.
    strength
        0.05..1, in hundredths; 1 is the swatch itself.

    Raises
    ------
    SwatchError
        If its medium knows no strengths, or the strength is out of range.
    """
    medium = MEDIUMS[swatch.medium]
    if not medium.weaker_by:
        raise SwatchError(f"{swatch.name}: {medium.name.lower()} is laid at full strength only.")
    if not LEAST_STRENGTH <= strength <= 1:
        raise SwatchError(
            f"{swatch.name}: a strength lies in {100 * LEAST_STRENGTH:.0f} to 100 %, got {100 * strength:g} %."
        )
    percent = round(strength * 100)
    return swatch if percent == 100 else _weaker(swatch, percent)


@lru_cache(maxsize=20_000)
def _weaker(swatch: Swatch, percent: int) -> Swatch:
    medium = MEDIUMS[swatch.medium]
    amount = (percent / 100) ** medium.weaker_power
    light, a, b = appearance(swatch, swatch.paper, **{medium.weaker_by: amount})
    lab = (round(light, 1), round(a, 1), round(b, 1))
    weaker = swatch.recoloured(code_at(swatch.code, percent / 100), f"{swatch.name}{_said(percent)}", lab)
    # What is laid weaker covers less of what is below, or a light hand would make toned paper pale.
    covers = covers_of(swatch)
    return weaker if covers is None else replace(weaker, opacity=round(covers * amount, 4))


def _said(percent: int) -> str:
    return f" at {percent}\N{NO-BREAK SPACE}%"


def strengths_of(swatch: Swatch) -> list[Swatch]:
    """A swatch at full strength and at STRENGTHS, as far as they still show on its paper."""
    if not MEDIUMS[swatch.medium].weaker_by:
        return [swatch]
    weaker = (at_strength(swatch, strength) for strength in STRENGTHS)
    return [swatch, *(one for one in weaker if float(difference(one.lab, swatch.paper.lab)) >= SEEN)]


def pen_name(name: str, strength: float) -> str:
    """The name of the swatch itself, of one named by `at_strength`.

    Parameters
    ----------
    name
        As it stands at the strength.
    strength
        As `split_code` says it.
    """
    return name.removesuffix(_said(round(100 * strength)))
