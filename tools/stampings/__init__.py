"""Stampings made by script to measure the finder on: own line art, own damage, papers and light.

They share nothing with the demo's drawings and scanner. `panel(seed)` draws, `stamp(panel, ...)` prints and scans or
photographs it, `score` compares found regions with what was drawn, `find_plainly` is the plain classical way to stand
beside. Seeds below `_measure.HELD_BACK` may be looked at while the finder is worked on; those from it on never are.
"""

from tools.stampings._draw import Panel, closing_panel, panel
from tools.stampings._measure import DEGREES, DRAWINGS, FINDERS
from tools.stampings._of_things import panel_of_scenes, panel_of_things
from tools.stampings._plain import find_plainly
from tools.stampings._print import Stamping, stamp
from tools.stampings._score import Score, score, true_cells
from tools.stampings._table import head, show, show_from_outside

__all__ = [
    "DEGREES",
    "DRAWINGS",
    "FINDERS",
    "Panel",
    "Score",
    "Stamping",
    "closing_panel",
    "find_plainly",
    "head",
    "panel",
    "panel_of_scenes",
    "panel_of_things",
    "score",
    "show",
    "show_from_outside",
    "stamp",
    "true_cells",
]
