"""The recipe sheet while it is being filled in, and the frozen, versioned recipe that comes of it."""

from paleta.recipe._carry import CarriedOver, carry_over, first_setting
from paleta.recipe._changes import ORDER_WORDS, what_changed
from paleta.recipe._file import FORMAT, FORMAT_VERSION, SCHEMA, dump, load
from paleta.recipe._recipe import ImpressionRecord, Recipe
from paleta.recipe._sheet import (
    ORDER_WISHES,
    ROLES,
    TAGS,
    RegionSetting,
    Sheet,
    sheet_from_plain,
    sheet_to_plain,
    swatch_from_plain,
    swatch_to_plain,
)
from paleta.recipe._work import bodies_of, work_of, zoning_of

__all__ = [
    "FORMAT",
    "FORMAT_VERSION",
    "ORDER_WISHES",
    "ORDER_WORDS",
    "ROLES",
    "SCHEMA",
    "TAGS",
    "CarriedOver",
    "ImpressionRecord",
    "Recipe",
    "RegionSetting",
    "Sheet",
    "bodies_of",
    "carry_over",
    "dump",
    "first_setting",
    "load",
    "sheet_from_plain",
    "sheet_to_plain",
    "swatch_from_plain",
    "swatch_to_plain",
    "what_changed",
    "work_of",
    "zoning_of",
]
