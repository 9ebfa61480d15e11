"""Form and light: how bodies bulge, how a lamp falls on them, and which zone of a region is how dark."""

from paleta.light._accents import ACCENTS, Cover, accent_cover
from paleta.light._bodies import FORMS, Body
from paleta.light._depths import put_before, settle_depths
from paleta.light._guess import guess_bodies
from paleta.light._illuminate import glow_light, glow_tint, illuminate, reserved_zones
from paleta.light._lamp import Glow, Lamp
from paleta.light._loops import warm_up
from paleta.light._printed import printed_shading
from paleta.light._relief import SCALE, Relief, model_forms, relief_from_bytes, relief_to_bytes, smaller
from paleta.light._zones import (
    LEVELS,
    NO_ZONE,
    SHARES,
    ZONE_NAMES,
    Zoning,
    levels,
    thresholds,
    zone_map,
    zone_shares,
    zones_at,
)

__all__ = [
    "ACCENTS",
    "FORMS",
    "LEVELS",
    "NO_ZONE",
    "SCALE",
    "SHARES",
    "ZONE_NAMES",
    "Body",
    "Cover",
    "Glow",
    "Lamp",
    "Relief",
    "Zoning",
    "accent_cover",
    "glow_light",
    "glow_tint",
    "guess_bodies",
    "illuminate",
    "levels",
    "model_forms",
    "printed_shading",
    "put_before",
    "relief_from_bytes",
    "relief_to_bytes",
    "reserved_zones",
    "settle_depths",
    "smaller",
    "thresholds",
    "warm_up",
    "zone_map",
    "zone_shares",
    "zones_at",
]
