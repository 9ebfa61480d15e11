"""One medium with its ramp on a region, and the passes that follow the light without being a zone."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations

from paleta.errors import RecipeError
from paleta.fields import Choice, Many, Text, check_fields, holds
from paleta.light import ACCENTS
from paleta.media import LONGEST_CODE, MEDIA, stack_fault
from paleta.order import SCHOOLS, Pen

CODE = Text(LONGEST_CODE + 20, 1)
"""Of a swatch; thinner washes of a paint have a word behind its own."""
MOST_COATS = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Coat:
    """medium  what it is laid with. ramp: swatch codes, palest first.
    school     how it is laid, by its code; empty = as the sheet says for its medium.
    """

    medium: str = holds(Choice(MEDIA))
    ramp: tuple[str, ...] = holds(Many(CODE, 5, once=True))
    school: str = holds(Text(40), "")

    def __post_init__(self) -> None:
        check_fields(self, RecipeError, "A coat")
        if not self.ramp:
            raise RecipeError("A coat has at least one swatch.")
        if self.school and (self.school not in SCHOOLS or SCHOOLS[self.school].medium != self.medium):
            raise RecipeError(f"{self.school!r} is no school of shade order for {MEDIA[self.medium].lower()}.")

    @property
    def pens(self) -> tuple[Pen, ...]:
        return tuple((self.medium, code) for code in self.ramp)


@dataclass(frozen=True, slots=True, kw_only=True)
class Accent:
    """kind      where it goes, one of paleta.light.ACCENTS.
    medium, code  the swatch it is laid with.
    """

    kind: str = holds(Choice({code: accent.name for code, accent in ACCENTS.items()}))
    medium: str = holds(Choice(MEDIA))
    code: str = holds(CODE)

    def __post_init__(self) -> None:
        check_fields(self, RecipeError, "An accent")

    @property
    def pen(self) -> Pen:
        return self.medium, self.code


def accents_in_laying_order(media: Sequence[str], accents: Sequence[Accent]) -> tuple[Accent, ...]:
    """Accents over coats of these media, in the order in which they are laid.

    Touches of a background come first, then the order is that of ACCENTS. Where a medium could not lie over another in
    that order, media change places; an accent in a medium of the coats may lie over all of them, since the trade goes
    back to the darkest marker over pencil for accents.

    Parameters
    ----------
    media
        Codes of the coats, lowest first.
    accents
        Of one region.

    Raises
    ------
    RecipeError
        If the media cannot lie over each other in any order.
    """
    kinds = list(ACCENTS)
    usual = sorted(accents, key=lambda one: (not ACCENTS[one.kind].background, kinds.index(one.kind)))
    own = tuple(dict.fromkeys(accent.medium for accent in usual if accent.medium not in media))
    possible = next((order for order in permutations(own) if not stack_fault((*media, *order))), None)
    if possible is None:
        raise RecipeError(stack_fault((*media, *own)))
    if possible == own:
        return tuple(usual)
    layers = (*media, *possible)
    return tuple(sorted(usual, key=lambda accent: layers.index(accent.medium)))


def spread_over(shades: int, zones: int) -> tuple[int, ...]:
    """For each of a region's zones, deepest first, the zone of a coat with so many shades that lies there.

    Parameters
    ----------
    shades
        Of the coat, 1 to 5.
    zones
        Of the region, at least as many.
    """
    return tuple(zone * shades // zones for zone in range(zones))


def zones_covered(shades: int, zones: int) -> tuple[tuple[int, ...], ...]:
    """For each zone of a coat the zones of its region that it covers.

    Parameters
    ----------
    shades
        of the coat, 1 to 5
    zones
        of the region, at least as many
    """
    places = spread_over(shades, zones)
    return tuple(tuple(zone for zone, own in enumerate(places) if own == coat) for coat in range(shades))
