"""The picture on the bench: what the plan will look like, as pixels."""

from paleta.picture._looks import look_of, looks_of, stack_look, zone_look
from paleta.picture._paint import VIEWS, Canvas, Laid, make_canvas, paint
from paleta.picture._planned import Planned, accents_under, bare_of, laid_as, lit, painted, planned, soft_of

__all__ = [
    "VIEWS",
    "Canvas",
    "Laid",
    "Planned",
    "accents_under",
    "bare_of",
    "laid_as",
    "lit",
    "look_of",
    "looks_of",
    "make_canvas",
    "paint",
    "painted",
    "planned",
    "soft_of",
    "stack_look",
    "zone_look",
]
