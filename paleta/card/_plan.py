"""What a laid-out card is: its pieces in their places, and what speaks against it."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.card._length import ZERO, Length
from paleta.card._picture import Place
from paleta.card._spec import CardSpec

CARD_WARNINGS = {
    "hangs over": "Larger than what it lies on",
    "nothing left": "No room between the reveals",
    "foam shows": "Foam that shows",
    "over": "The greeting covers something",
    "envelope": "Does not fit the envelope",
    "thick": "Too thick to lie flat",
    "off the scan": "Larger than the picture",
    "cut away": "Coloured for nothing",
    "greeting off": "The greeting hangs over",
    "hard to read": "The greeting is hard to read",
    "or on a strip": "The greeting on a strip",
    "or elsewhere": "The greeting in another place",
    "press": "No roller press",
    "grain": "Grain not known",
    "gone": "No longer in the picture",
}


@dataclass(frozen=True, slots=True)
class PlacedLayer:
    """A piece in its place, from the front's top left corner. kind: base, mat, panel, greeting, inside, foam,
    cut-out (by the box round it)."""

    kind: str
    name: str
    place: Place
    stock: str
    foam: Length


@dataclass(frozen=True, slots=True)
class CardPart:
    """A piece to cut for one card.

    along              the side that the grain runs along, "" where that is all the same.
    scores, score_down  where it is scored: how far from its left edge, downwards, or from its top edge, across.
    """

    name: str
    width: Length
    height: Length
    stock: str
    along: str = ""
    count: int = 1
    scores: tuple[Length, ...] = ()
    score_down: bool = True


@dataclass(frozen=True, slots=True)
class CardWarning:
    """A code of CARD_WARNINGS, whom it is about, a sentence, and the spec that would mend it, if one does."""

    code: str
    about: str
    sentence: str
    remedy: str = ""
    mended: CardSpec | None = None


@dataclass(frozen=True, slots=True)
class CardPlan:
    """All sizes and places of one card.

    open_sheet, scores  the base before folding, and how far from its left or top edge it is scored.
    layers             from the base up; foams lie beneath the layer of the same name.
    inside             on the inside of the back.
    raised             what is cut out and stands above its place.
    crop               where the panel lies on the picture; rough: what is cut before colouring, larger by the trim.
    covered            what the greeting covers: name and share of it, most first.
    """

    spec: CardSpec
    stamped_gsm: float
    open_sheet: tuple[Length, Length]
    scores: tuple[Length, ...]
    layers: tuple[PlacedLayer, ...]
    foams: tuple[PlacedLayer, ...]
    greeting: PlacedLayer | None
    inside: PlacedLayer | None
    raised: tuple[PlacedLayer, ...]
    crop: Place | None
    rough: Place | None
    covered: tuple[tuple[str, float], ...]
    pieces: tuple[CardPart, ...]
    thickness: Length
    warnings: tuple[CardWarning, ...]

    @property
    def front(self) -> Place:
        return self.layers[0].place

    @property
    def panel(self) -> PlacedLayer:
        return self.layers[-1]


def on_picture(plan: CardPlan, place: Place) -> Place | None:
    """A place on the front as a place on the picture.

    Parameters
    ----------
    plan
        As `lay_out` gives.
    place
        On the front.

    Returns
    -------
    None where no picture lies.
    """
    if plan.crop is None:
        return None
    panel = plan.panel.place
    return place.moved(plan.crop.x - panel.x, plan.crop.y - panel.y)


def within(value: Length, most: Length) -> Length:
    """Between nought and the most, or in the middle where there is no room.

    Parameters
    ----------
    value
        wished length
    most
        the largest one that fits
    """
    return most / 2 if most < ZERO else min(max(value, ZERO), most)
