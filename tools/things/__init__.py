"""Drawings by chance that know which of their cells are pieces of one surface and which are alike.

`panel(seed, kinds)` draws; `exercise(seed, kinds)` what networks are fitted on: KINDS, OTHER_HAND, THIRD_HAND,
FOURTH_HAND, SCENES, ONCE_HELD_BACK, which was held back until it had been looked at too often, and things made up by
chance (`made_up_kinds`). They never saw HELD_BACK, which nobody thought of, nor FIFTH_HAND, the usual sorts drawn anew.
`measure(number)` is the table of how well things are found in each.
"""

from tools.things._canvas import DPI, Canvas, Drawn
from tools.things._fifth_hand import FIFTH_HAND
from tools.things._fourth_hand import FOURTH_HAND
from tools.things._further_kinds import ONCE_HELD_BACK
from tools.things._held_back import HELD_BACK
from tools.things._kinds import Kind
from tools.things._made_up import made_up_kinds
from tools.things._measure import agreement, measured, members, plain_things
from tools.things._other_hand import OTHER_HAND
from tools.things._panels import KINDS, exercise, exercise_canvas, fold_of, panel, panel_canvas
from tools.things._scenes import SCENES
from tools.things._table import measure
from tools.things._third_hand import THIRD_HAND

__all__ = [
    "DPI",
    "FIFTH_HAND",
    "FOURTH_HAND",
    "HELD_BACK",
    "KINDS",
    "ONCE_HELD_BACK",
    "OTHER_HAND",
    "SCENES",
    "THIRD_HAND",
    "Canvas",
    "Drawn",
    "Kind",
    "agreement",
    "exercise",
    "exercise_canvas",
    "fold_of",
    "made_up_kinds",
    "measure",
    "measured",
    "members",
    "panel",
    "panel_canvas",
    "plain_things",
]
