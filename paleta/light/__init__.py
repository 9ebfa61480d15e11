"""Form and light: how bodies bulge, how a lamp falls on them, and which zone of a region is how dark."""

from paleta.light._forms import FORMS, Body, Relief, guess_bodies, model_forms
from paleta.light._illuminate import Glow, Lamp, illuminate
from paleta.light._zones import LEVELS, NO_ZONE, Zoning, levels, thresholds, zone_map

__all__ = ["FORMS", "LEVELS", "NO_ZONE", "Body", "Glow", "Lamp", "Relief", "Zoning", "guess_bodies", "illuminate",
           "levels", "model_forms", "thresholds", "zone_map"]
