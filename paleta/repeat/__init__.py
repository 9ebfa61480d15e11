"""Is this card like that one, and the same stamp again."""

from paleta.repeat._cast import GreyPatch
from paleta.repeat._compare import NotThisCard, PhotoUnfit, RepeatReport, compare
from paleta.repeat._faults import FAULT_KINDS, Fault
from paleta.repeat._light_laid import LaidLight
from paleta.repeat._readings import RegionReading, ZoneReading
from paleta.repeat._register import NotTheSameStamp, Registration, register
from paleta.repeat._restamp import Restamped, restamp

__all__ = [
    "FAULT_KINDS",
    "Fault",
    "GreyPatch",
    "LaidLight",
    "NotTheSameStamp",
    "NotThisCard",
    "PhotoUnfit",
    "RegionReading",
    "Registration",
    "RepeatReport",
    "Restamped",
    "ZoneReading",
    "compare",
    "register",
    "restamp",
]
