"""Drawings by chance that know which of their cells are pieces of one surface and which are alike."""

from tools.things._canvas import Canvas, Drawn
from tools.things._further_kinds import FURTHER, HELD_BACK
from tools.things._kinds import BASIC
from tools.things._panels import panel

KINDS = {**BASIC, **FURTHER}

__all__ = ["HELD_BACK", "KINDS", "Canvas", "Drawn", "panel"]
