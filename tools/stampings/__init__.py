"""Stampings made by script to measure the finder on: own line art, own damage, papers and light.

They share nothing with the demo's drawings and scanner. `panel(seed)` draws, `stamp(panel, ...)` prints and scans or
photographs it, `score` compares found regions with what was drawn, `find_plainly` is the plain classical way to stand
beside. Seeds below HELD_BACK may be looked at while the finder is worked on; those from it on never are.
"""

from tools.stampings._draw import Panel, panel
from tools.stampings._measure import DEGREES, HELD_BACK, Tally, measure
from tools.stampings._plain import find_plainly
from tools.stampings._print import Stamping, stamp
from tools.stampings._score import Score, score, true_cells

__all__ = [
    "DEGREES",
    "HELD_BACK",
    "Panel",
    "Score",
    "Stamping",
    "Tally",
    "find_plainly",
    "measure",
    "panel",
    "score",
    "stamp",
    "true_cells",
]
