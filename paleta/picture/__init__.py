"""The picture on the bench: what the plan will look like, as pixels."""

from paleta.picture._looks import look_of, looks_of, stack_look
from paleta.picture._paint import VIEWS, Canvas, make_canvas, paint
from paleta.picture._planned import UNLIT, Planned, accents_under, compose, lit, painted, planned, sheet_light, soft_of

__all__ = [
    "UNLIT",
    "VIEWS",
    "Canvas",
    "Planned",
    "accents_under",
    "compose",
    "lit",
    "look_of",
    "looks_of",
    "make_canvas",
    "paint",
    "painted",
    "planned",
    "sheet_light",
    "soft_of",
    "stack_look",
]
