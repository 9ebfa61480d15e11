"""Is this card like that one, and the same stamp again."""

from paleta.errors import NotThisCard, PhotoUnfit
from paleta.photo_check._cast import GreyPatch
from paleta.photo_check._compare import PhotoReport, compare
from paleta.photo_check._faults import FAULT_KINDS, Fault, fault_from_plain, fault_to_plain, find_faults
from paleta.photo_check._light_laid import LaidLight
from paleta.photo_check._measured import Measured, swatches_measured
from paleta.photo_check._readings import RegionReading, ZoneReading, reading_from_plain, reading_to_plain
from paleta.photo_check._register import NotTheSameStamp, Registration, register
from paleta.photo_check._verdict import WITHIN, ThingOff, against, things_off, verdict, ways_out
from paleta.restamp._other_paper import PaperChange, on_other_paper
from paleta.restamp._restamp import Restamped, restamp

__all__ = [
    "FAULT_KINDS",
    "WITHIN",
    "Fault",
    "GreyPatch",
    "LaidLight",
    "Measured",
    "NotTheSameStamp",
    "NotThisCard",
    "PaperChange",
    "PhotoReport",
    "PhotoUnfit",
    "RegionReading",
    "Registration",
    "Restamped",
    "ThingOff",
    "ZoneReading",
    "against",
    "compare",
    "fault_from_plain",
    "fault_to_plain",
    "find_faults",
    "on_other_paper",
    "reading_from_plain",
    "reading_to_plain",
    "register",
    "restamp",
    "swatches_measured",
    "things_off",
    "verdict",
    "ways_out",
]
