"""The card: exact sizes, what lies where, how it is cut from sheets, and in what order it is made."""

from paleta.card._cut import Cut, CutPlan, CutSheet, cut, cut_card, warm_up
from paleta.card._folds import FOLDS
from paleta.card._layout import lay_out
from paleta.card._length import ZERO, Length, Measure, inches, millimetres, parse_length, show
from paleta.card._making import MakingStep, check_making, making, steps_of
from paleta.card._outline import MASK_INSIDE_MM, cut_lines
from paleta.card._picture import Picture, Place, Thing
from paleta.card._plan import CARD_WARNINGS, CardPart, CardPlan, PlacedLayer, on_picture
from paleta.card._sizes import CARDS, ENVELOPES, SHEETS, Size
from paleta.card._spec import (
    GRAINS,
    MOST_CARDS,
    STEP_NAMES,
    Base,
    CardLayer,
    CardSpec,
    CutOut,
    Greeting,
    Inside,
    Panel,
    Stock,
    open_size,
    said_of_card,
)
from paleta.card._stack import Slab, stack
from paleta.card._weight import Weight, parse_weight, said_weight

__all__ = [
    "CARDS",
    "CARD_WARNINGS",
    "ENVELOPES",
    "FOLDS",
    "GRAINS",
    "MASK_INSIDE_MM",
    "MOST_CARDS",
    "SHEETS",
    "STEP_NAMES",
    "ZERO",
    "Base",
    "CardLayer",
    "CardPart",
    "CardPlan",
    "CardSpec",
    "Cut",
    "CutOut",
    "CutPlan",
    "CutSheet",
    "Greeting",
    "Inside",
    "Length",
    "MakingStep",
    "Measure",
    "Panel",
    "Picture",
    "Place",
    "PlacedLayer",
    "Size",
    "Slab",
    "Stock",
    "Thing",
    "Weight",
    "check_making",
    "cut",
    "cut_card",
    "cut_lines",
    "inches",
    "lay_out",
    "making",
    "millimetres",
    "on_picture",
    "open_size",
    "parse_length",
    "parse_weight",
    "said_of_card",
    "said_weight",
    "show",
    "stack",
    "steps_of",
    "warm_up",
]
