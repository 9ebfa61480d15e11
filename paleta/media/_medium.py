"""What is known of a medium, in one description."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from paleta.media._layer import Layer
from paleta.media._pace import Pace
from paleta.media._school import School

Floats = NDArray[np.float64]


WATER_TURN, INK_TURN, DRY_TURN = 0, 1, 2
"""What is laid with water, what dries by itself, and what never wets the paper. Common practice."""


@dataclass(frozen=True, slots=True)
class Over:
    """What is known of one medium over another.

    may      whether the upper may lie there at all. why says what happens, or what to mind.
    wet      whether the two may meet while the lower is wet.
    """

    may: bool
    why: str
    wet: bool = False


ONCE_DRY = Over(True, "Once what lies below is dry.")


@dataclass(frozen=True, slots=True)
class Advice:
    """What does not go together and why, and what to do instead. A wrong pair can be kept, knowingly."""

    why: str
    instead: str


@dataclass(frozen=True, slots=True)
class Fit:
    """What speaks against a medium with a line of any of the words `lines` (`paleta.materials.Line`), or on a paper of
    all words of one of `papers`."""

    advice: Advice
    lines: frozenset[str] = frozenset()
    papers: tuple[frozenset[str], ...] = ()


LEAKS = Fit(
    Advice(
        "On this paper water carries colour past the line.",
        "Stop a hair’s breadth short of the line, use little water, and let a neighbour dry first.",
    ),
    papers=(frozenset({"leaks"}),),
)
CURLS = Fit(
    Advice(
        "This paper curls when it gets wet.",
        "Tape its edges down, or press it flat under books once it is dry.",
    ),
    papers=(frozenset({"curls"}),),
)
"""Of every medium that is used with water. Common practice."""


@dataclass(frozen=True, slots=True)
class Way:
    """A way of laying a background, with the school its passes follow."""

    code: str
    name: str
    school: str
    caution: str = ""


@dataclass(frozen=True, slots=True)
class SecondBox:
    """The second box of a swatch chart: what it and the first one hold in words, the field of Swatch it measures, and
    how it is laid, as keywords of `appearance`."""

    first_words: str
    words: str
    field: Literal["two_coats", "diluted", "firm_pressure"]
    laid: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Texture:
    """How it lies on the paper when it is dry: smooth, a wash with a darker rim, pencil strokes, or a pad's clouds;
    `rim` is how strong a wash's rim is."""

    kind: Literal["smooth", "wash", "strokes", "clouds"] = "smooth"
    rim: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Medium:
    """All that is known of a medium. Everything that asks what a medium does asks here; what differs from one to the
    other is written in its own file and nowhere else.

    rank          its place in lists.
    optics        the reflectance of what lies below, and the layer on it, to the reflectance that is seen then.
    transparent   it lets the paper through and can only darken it, unless a swatch is said to be opaque.
    covers        the share of what is below that one usual layer covers for good; None for what is transparent.
    weaker_by     which field of a Layer is lowered to lay it weaker than at full strength; "" where none can be.
    weaker_power  that field is the strength raised to this power: 2 for paint, which looks half as strong with a
                  quarter of its pigment.
    drawn_out     how one of it is drawn out to nothing, in words.
    mixes_by_tip  two of it may be touched tip to tip.
    turn          WATER_TURN, INK_TURN or DRY_TURN: where two regions touch, media of an earlier turn are laid first.
    pace          how long things take; schools: how shades are laid, the first in order of their codes.
    lies_on       what is known of laying it over another medium, by that one's code; `lies_on_others` of the rest.
    tip_mm        width of its finest usual stroke.
    creeps_below  swatches darker than this L* creep past the line; 0: none does.
    soils_masks   it stays on a mask and comes off on the next pad.
    finish_dry_s  until the colouring is dry enough for what lies on top of it.
    blends_on     ways of following (`Step.join`) in which it mixes with what lies there instead of covering it.
    melts         how far the shades of a blend melt into each other, a part of the way to the next.
    second_box    what a swatch chart measures beside the first coat.
    fits          what speaks against it with an outline ink or a paper.
    rescues       ways out of a slip in it, by their keys, beside those that serve anywhere.
    ways          ways of laying a background with it.
    caution       what is dangerous about it, "" where nothing is.
    """

    code: str
    name: str
    rank: int
    optics: Callable[[Floats, Layer], Floats]
    transparent: bool = True
    covers: float | None = None
    weaker_by: Literal["", "dilution", "pressure", "coats"] = ""
    weaker_power: float = 1.0
    drawn_out: str = "swatch drawn out"
    mixes_by_tip: bool = False
    turn: int
    pace: Pace
    schools: tuple[School, ...]
    usual_school: str
    lies_on: Mapping[str, Over] = field(default_factory=dict)
    lies_on_others: Over = ONCE_DRY
    tip_mm: float
    creeps_below: float = 0.0
    soils_masks: bool = False
    finish_dry_s: float
    melts: float
    blends_on: frozenset[str] = frozenset({"wet"})
    texture: Texture = Texture()
    second_box: SecondBox
    fits: tuple[Fit, ...] = ()
    rescues: frozenset[str] = frozenset()
    ways: tuple[Way, ...] = ()
    caution: str = ""
