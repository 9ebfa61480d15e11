"""The scan or photo of one stamped image: reading it and finding its regions."""

from paleta.impression._edits import apply_edits, check_edit, parts_of_split
from paleta.impression._read import MM_PER_INCH, Impression, read
from paleta.impression._region_map import Border, Region, RegionMap, labels_from_png, labels_to_png
from paleta.impression._regions import find_regions

__all__ = [
    "MM_PER_INCH",
    "Border",
    "Impression",
    "Region",
    "RegionMap",
    "apply_edits",
    "check_edit",
    "find_regions",
    "labels_from_png",
    "labels_to_png",
    "parts_of_split",
    "read",
]
