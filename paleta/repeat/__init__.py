"""Is this card like that one, and the same stamp again."""

from paleta.errors import NotThisCard, PhotoUnfit
from paleta.repeat._cast import GreyPatch
from paleta.repeat._compare import RepeatReport, compare
from paleta.repeat._faults import FAULT_KINDS, Fault, fault_from_plain, fault_to_plain, find_faults
from paleta.repeat._light_laid import LaidLight
from paleta.repeat._measured import Measured, swatches_measured
from paleta.repeat._paper import PaperChange, on_other_paper
from paleta.repeat._readings import RegionReading, ZoneReading, reading_from_plain, reading_to_plain
from paleta.repeat._register import NotTheSameStamp, Registration, register
from paleta.repeat._restamp import Restamped, restamp
from paleta.repeat._verdict import WITHIN, ThingOff, against, things_off, verdict, ways_out

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
    "PhotoUnfit",
    "RegionReading",
    "Registration",
    "RepeatReport",
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
