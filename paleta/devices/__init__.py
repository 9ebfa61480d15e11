"""Stand-ins for outside devices, each behind a small interface: cameras, a colour reader, and a hand that colours. All
are simulated."""

from paleta.devices._camera import photograph
from paleta.devices._hand import HAND_KINDS, HandFault, colour_card
from paleta.devices._home import HOME_LIGHTS, photograph_card
from paleta.devices._reader import SimulatedReader, averaged

__all__ = [
    "HAND_KINDS",
    "HOME_LIGHTS",
    "HandFault",
    "SimulatedReader",
    "averaged",
    "colour_card",
    "photograph",
    "photograph_card",
]
