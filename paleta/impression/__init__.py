"""The scan or photo of one stamped image: reading it and finding its regions."""

from paleta.impression._corners import Corners, check_corners, find_sheet, rectify
from paleta.impression._edits import apply_edits, check_edit, parts_of_split
from paleta.impression._impression import MM_PER_INCH, Impression
from paleta.impression._likeness import likeness_doubts
from paleta.impression._read import read
from paleta.impression._region_map import PAPER, Border, Region, RegionMap, labels_from_png, labels_to_png
from paleta.impression._regions import find_regions

__all__ = [
    "MM_PER_INCH",
    "PAPER",
    "Border",
    "Corners",
    "Impression",
    "Region",
    "RegionMap",
    "apply_edits",
    "check_corners",
    "check_edit",
    "find_regions",
    "find_sheet",
    "labels_from_png",
    "labels_to_png",
    "likeness_doubts",
    "parts_of_split",
    "read",
    "rectify",
]
