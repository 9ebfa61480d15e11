"""Judgements on a sheet before a pen is uncapped."""

from paleta.checks._fit import fit
from paleta.checks._grounds import ground_advice
from paleta.checks._light import LIGHT_REMEDIES, LightDoubt, check_light, light_directions
from paleta.checks._line import line_advice
from paleta.checks._paper import paper_like, paper_white
from paleta.checks._reserves import reserves
from paleta.checks._small import narrowest_shaded_mm
from paleta.checks._stamping import stamping_order
from paleta.checks._values import REMEDIES, VALUE_KINDS, ValueWarning, value_warnings

__all__ = [
    "LIGHT_REMEDIES",
    "REMEDIES",
    "VALUE_KINDS",
    "LightDoubt",
    "ValueWarning",
    "check_light",
    "fit",
    "ground_advice",
    "light_directions",
    "line_advice",
    "narrowest_shaded_mm",
    "paper_like",
    "paper_white",
    "reserves",
    "stamping_order",
    "value_warnings",
]
