"""Is this card like that one: a photo held against the recipe it was made along."""

from paleta.errors import NotThisCard, PhotoUnfit
from paleta.photo_check._compare import PhotoReport, compare
from paleta.photo_check._faults import FAULT_KINDS, Fault, fault_from_plain, fault_to_plain, find_faults, kind_of
from paleta.photo_check._light_laid import LaidLight
from paleta.photo_check._lines import lines_of
from paleta.photo_check._measured import Measured, swatches_measured
from paleta.photo_check._pose import SoftPicture
from paleta.photo_check._readings import RegionReading, reading_from_plain, reading_to_plain
from paleta.photo_check._register import NotTheSameStamp, Registration, Template, photo_read, register
from paleta.photo_check._verdict import against, things_off, verdict, ways_out

__all__ = [
    "FAULT_KINDS",
    "Fault",
    "LaidLight",
    "Measured",
    "NotTheSameStamp",
    "NotThisCard",
    "PhotoReport",
    "PhotoUnfit",
    "RegionReading",
    "Registration",
    "SoftPicture",
    "Template",
    "against",
    "compare",
    "fault_from_plain",
    "fault_to_plain",
    "find_faults",
    "kind_of",
    "lines_of",
    "photo_read",
    "reading_from_plain",
    "reading_to_plain",
    "register",
    "swatches_measured",
    "things_off",
    "verdict",
    "ways_out",
]
