"""The picture on the bench: what the plan will look like, as pixels."""

from paleta.picture._looks import look_of, looks_of, stack_look, zone_look
from paleta.picture._paint import SOFT_GROUND, SOFT_LEVELS, VIEWS, Canvas, Laid, make_canvas, paint

__all__ = [
    "SOFT_GROUND",
    "SOFT_LEVELS",
    "VIEWS",
    "Canvas",
    "Laid",
    "look_of",
    "looks_of",
    "make_canvas",
    "paint",
    "stack_look",
    "zone_look",
]
