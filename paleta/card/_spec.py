"""What a card is made of, as its maker decides it: a spec, not a note."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from paleta.card._folds import FOLDS
from paleta.card._length import ZERO, Length, Measure, inches, millimetres
from paleta.card._sizes import ENVELOPES
from paleta.card._weight import Weight
from paleta.errors import CardError
from paleta.fields import LABEL, Choice, Flag, Many, Maybe, OneLine, Record, Text, Whole, check_fields, holds

GRAINS = {"long": "Grain along the long side", "short": "Grain along the short side"}
STEP_NAMES = {
    "write": "Write and stamp the inside",
    "greeting": "Stamp the greeting",
    "alike": "Tick off that both pictures are done alike",
    "cut": "Cut the layers",
    "score": "Score and fold the base",
    "dry": "Let everything dry",
    "trim": "Trim the picture to size",
    "cut out": "Cut out what stands up",
    "mats": "Glue the mats",
    "panel": "Glue the picture on",
    "inside": "Glue the panel inside",
    "strip": "Set the greeting strip",
    "foam": "Set what stands on foam",
}
"""Steps of making by code, in the order they are done when nothing speaks against it (common practice)."""
MOST_CARDS = 1000
FOAM_LESS = inches("1/8")
"""How much smaller overall foam is cut than what it carries, so that it does not show (common practice)."""
REVEAL = inches("1/8")
SIDE = Measure(inches("1/16"), inches(40))
APART = Measure(ZERO, inches(4))
SHIFT = Measure(inches(-40), inches(40))
FOAM = Measure(ZERO, millimetres(20))
NAME = OneLine(40)
SHEET_NAME = OneLine(40, 1)
COLOUR = Text(7, 7, "#[0-9a-f]{6}")
"""sRGB, as screens show it: what card is sold by has no measured colour."""


class _Checked:
    __slots__ = ()

    def __post_init__(self) -> None:
        check_fields(self, CardError)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock(_Checked):
    """Sheets of one paper that are at hand. grain: which side it runs along, "" if not known; owned: how many."""

    name: str = holds(SHEET_NAME)
    width: Length = holds(SIDE)
    height: Length = holds(SIDE)
    grain: str = holds(Choice(GRAINS, blank=True), "")
    gsm: float = holds(Weight(0, 1200), 0.0, help="Weight in g/m2, or as it is sold: 110 lb cover. 0: not known.")
    colour: str = holds(COLOUR, "#f1f1ef")
    owned: int = holds(Whole(0, 9999), 0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Base(_Checked):
    """The card itself, by the size it has when it is folded.

    shorter     how much shorter than its back the front of a card is that is folded once.
    with_grain  its folds run along the paper's grain.
    """

    width: Length = holds(SIDE)
    height: Length = holds(SIDE)
    fold: str = holds(Choice({code: fold.name for code, fold in FOLDS.items()}), "side")
    shorter: Length = holds(APART, ZERO)
    stock: str = holds(NAME, "")
    with_grain: bool = holds(Flag(), True)

    def __post_init__(self) -> None:
        check_fields(self, CardError)
        way = FOLDS[self.fold]
        if self.shorter and not way.once:
            raise CardError(f"Only a card that is folded once has a shorter front, not one with a {way.said}.")
        if self.shorter >= (self.width if way.down else self.height):
            raise CardError("A front that is shorter than its back still has to have some of its length.")

    @property
    def scores(self) -> tuple[Length, ...]:
        """Where the open sheet is scored, from its left or top edge."""
        return FOLDS[self.fold].scores(self.width, self.height, self.shorter)

    @property
    def grain_along(self) -> str:
        """The side of the open sheet that the grain is to run along, "" where that is all the same."""
        return ("height" if FOLDS[self.fold].down else "width") if self.with_grain and self.scores else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CardLayer(_Checked):
    """A layer on the front, by what stays free at each side of it, or by a size of its own.

    right, down  how far its middle lies off the middle of what carries it.
    foam         thickness of the foam beneath it; 0: glued flat. foam_less: how much smaller the foam is overall.
    """

    reveal: Length = holds(APART, REVEAL)
    width: Length | None = holds(Maybe(SIDE), None)
    height: Length | None = holds(Maybe(SIDE), None)
    right: Length = holds(SHIFT, ZERO)
    down: Length = holds(SHIFT, ZERO)
    stock: str = holds(NAME, "")
    foam: Length = holds(FOAM, ZERO)
    foam_less: Length = holds(APART, FOAM_LESS)


@dataclass(frozen=True, slots=True, kw_only=True)
class Panel(CardLayer):
    """The layer with the picture on it.

    crop_x, crop_y  where its top left corner lies on the picture; None: the figure comes into its middle.
    trim            how much larger it stays at each edge until it is coloured.
    """

    crop_x: Length | None = holds(Maybe(SHIFT), None)
    crop_y: Length | None = holds(Maybe(SHIFT), None)
    trim: Length = holds(APART, inches("1/4"))


@dataclass(frozen=True, slots=True, kw_only=True)
class CutOut(_Checked):
    """Regions cut out along their outline, `margin` outside of it, and set up on foam above where they were."""

    name: str = holds(SHEET_NAME)
    regions: tuple[int, ...] = holds(Many(LABEL, 400, once=True))
    margin: Length = holds(Measure(ZERO, millimetres(20)), millimetres(1))
    foam: Length = holds(FOAM, millimetres(2))


@dataclass(frozen=True, slots=True, kw_only=True)
class Greeting(_Checked):
    """The sentiment: what it says and the room it takes on the front, from the front's top left corner.

    strip     on a strip of its own, cut from `stock`; else stamped straight on the picture.
    embossed  set with heat.
    """

    text: str = holds(OneLine(120), "")
    width: Length = holds(SIDE, inches(3))
    height: Length = holds(SIDE, inches("5/8"))
    x: Length = holds(SHIFT, inches("5/8"))
    y: Length = holds(SHIFT, inches("9/2"))
    strip: bool = holds(Flag(), True)
    embossed: bool = holds(Flag(), False)
    stock: str = holds(NAME, "")
    colour: str = holds(COLOUR, "#333333", help="The colour it is stamped in.")
    foam: Length = holds(FOAM, ZERO)


@dataclass(frozen=True, slots=True, kw_only=True)
class Inside(_Checked):
    """What is written inside, and the panel it is written on; no panel: straight on the base."""

    text: str = holds(Text(400), "")
    panel: bool = holds(Flag(), True)
    reveal: Length = holds(APART, REVEAL)
    stock: str = holds(NAME, "")


@dataclass(frozen=True, slots=True, kw_only=True)
class CardSpec(_Checked):
    """All of a card. mats lie from the base up, the panel on the last of them.

    pull_out  two pictures that change places: a second panel of the same size and crop.
    making    steps in the order the maker wants; empty: Paleta's.
    cards     how many cards are made of it.
    """

    base: Base = holds(Record(Base))
    mats: tuple[CardLayer, ...] = holds(Many(Record(CardLayer), 4), ())
    panel: Panel = holds(Record(Panel), Panel)
    cutouts: tuple[CutOut, ...] = holds(Many(Record(CutOut), 12), ())
    greeting: Greeting | None = holds(Maybe(Record(Greeting)), None)
    inside: Inside | None = holds(Maybe(Record(Inside)), None)
    pull_out: bool = holds(Flag(), False)
    envelope: str = holds(Choice({code: one.name for code, one in ENVELOPES.items()}, blank=True), "")
    stock: tuple[Stock, ...] = holds(Many(Record(Stock), 8), ())
    making: tuple[str, ...] = holds(Many(Choice(STEP_NAMES), len(STEP_NAMES), once=True), ())
    cards: int = holds(Whole(1, MOST_CARDS), 1)

    def __post_init__(self) -> None:
        check_fields(self, CardError)
        names = [one.name for one in self.stock]
        if len(set(names)) != len(names):
            raise CardError("Two papers have the same name; each needs one of its own.")
        for layer in (self.base, *self.layers, self.greeting, self.inside):
            if layer is not None and layer.stock and layer.stock not in names:
                raise CardError(f"There is no paper {layer.stock!r} among the sheets at hand.")

    @property
    def layers(self) -> tuple[CardLayer, ...]:
        """The mats from the base up, then the panel."""
        return (*self.mats, self.panel)

    def stock_named(self, name: str) -> Stock | None:
        """The sheets of this name; the first ones where a layer names none."""
        return next((one for one in self.stock if one.name == name or not name), None)

    def with_layer(self, number: int, **values: Any) -> CardSpec:
        """The spec with some values of one layer set anew: of the mats from the base up, or then of the panel."""
        if number >= len(self.mats):
            return self.changed("panel", **values)
        mats = [replace(one, **values) if place == number else one for place, one in enumerate(self.mats)]
        return replace(self, mats=tuple(mats))

    def changed(self, part: str, **values: Any) -> CardSpec:
        """The spec with some values of one of its parts set anew."""
        return replace(self, **{part: replace(getattr(self, part), **values)})


def open_size(base: Base) -> tuple[Length, Length]:
    """Width and height of the sheet a base is folded from."""
    return FOLDS[base.fold].open_size(base.width, base.height, base.shorter)


def said_of_card(spec: CardSpec | None) -> str:
    """The card in a line, as recipes and the list of what changed say it."""
    if spec is None:
        return "no sizes yet"
    parts = [f"{spec.base.width} by {spec.base.height}, {FOLDS[spec.base.fold].said}"]
    if spec.base.shorter:
        parts.append(f"front {spec.base.shorter} shorter")
    if spec.mats:
        parts.append(f"{len(spec.mats)} mat{'s' if len(spec.mats) > 1 else ''}")
    if spec.cutouts:
        parts.append("cut out: " + ", ".join(one.name for one in spec.cutouts))
    if spec.greeting and spec.greeting.text:
        parts.append(f'"{spec.greeting.text}"')
    return ", ".join(parts)
