"""The picture on the bench: what the plan will look like, as pixels."""

from paleta.picture._looks import looks_of, zone_look
from paleta.picture._paint import VIEWS, Canvas, make_canvas, paint

__all__ = ["VIEWS", "Canvas", "looks_of", "make_canvas", "paint", "zone_look"]
