"""Form and light: how bodies bulge, how a lamp falls on them, and which zone of a region is how dark."""

from paleta.light._bodies import FORMS, Body, guess_bodies
from paleta.light._illuminate import Glow, Lamp, illuminate
from paleta.light._relief import SCALE, Relief, model_forms, relief_from_bytes, relief_to_bytes
from paleta.light._zones import LEVELS, NO_ZONE, SHARES, ZONE_NAMES, Zoning, levels, thresholds, zone_map, zone_shares

__all__ = [
    "FORMS",
    "LEVELS",
    "NO_ZONE",
    "SCALE",
    "SHARES",
    "ZONE_NAMES",
    "Body",
    "Glow",
    "Lamp",
    "Relief",
    "Zoning",
    "guess_bodies",
    "illuminate",
    "levels",
    "model_forms",
    "relief_from_bytes",
    "relief_to_bytes",
    "thresholds",
    "zone_map",
    "zone_shares",
]
