"""The recipe sheet while it is being filled in, and the frozen, versioned recipe that comes of it."""

from paleta.recipe._card import Card
from paleta.recipe._carry import CarriedOver, carry_over, first_setting, taken_from_paper
from paleta.recipe._changes import what_changed
from paleta.recipe._coat import Accent, Coat, accents_in_laying_order, spread_over
from paleta.recipe._colours import KEY_NAMES, Colours
from paleta.recipe._derived import once_per_sheet
from paleta.recipe._file import build, dump, load, plan_from_plain, plan_to_plain, recipe_to_plain, written
from paleta.recipe._finish import TOUCH_NAMES, Finish
from paleta.recipe._formats import (
    FORMAT_VERSION,
    SCHEMA,
    paper_5_to_6,
    sheet_1_to_2,
    sheet_2_to_3,
    sheet_3_to_4,
    sheet_4_to_5,
    sheet_5_to_6,
    sheet_schema_fault,
    sheet_to_newest,
    to_newest,
)
from paleta.recipe._light import MOST_GLOWS, Light
from paleta.recipe._order import ORDER_WISHES, Order
from paleta.recipe._paper import PaperForm, paper_from_plain
from paleta.recipe._recipe import ImpressionRecord, Recipe
from paleta.recipe._region import ROLES, TAGS, TAGS_KIND, RegionSetting
from paleta.recipe._regions import MOST_REGIONS, Regions
from paleta.recipe._sheet import PARTS, Sheet, plain_sheet_sha256, sheet_from_plain, sheet_sha256, sheet_to_plain
from paleta.recipe._stamp import POWDER_NAMES, Stamp
from paleta.recipe._stints import Stint, stints_of
from paleta.recipe._swatch import swatch_from_plain, swatch_to_plain
from paleta.recipe._things import ASKED, BODY_FIELDS, new_name, proposed
from paleta.recipe._work import bodies_of, ground_rank, touches_of, work_of, zoning_of

__all__ = [
    "ASKED",
    "BODY_FIELDS",
    "FORMAT_VERSION",
    "KEY_NAMES",
    "MOST_GLOWS",
    "MOST_REGIONS",
    "ORDER_WISHES",
    "PARTS",
    "POWDER_NAMES",
    "ROLES",
    "SCHEMA",
    "TAGS",
    "TAGS_KIND",
    "TOUCH_NAMES",
    "Accent",
    "Card",
    "CarriedOver",
    "Coat",
    "Colours",
    "Finish",
    "ImpressionRecord",
    "Light",
    "Order",
    "PaperForm",
    "Recipe",
    "RegionSetting",
    "Regions",
    "Sheet",
    "Stamp",
    "Stint",
    "accents_in_laying_order",
    "bodies_of",
    "build",
    "carry_over",
    "dump",
    "first_setting",
    "ground_rank",
    "load",
    "new_name",
    "once_per_sheet",
    "paper_5_to_6",
    "paper_from_plain",
    "plain_sheet_sha256",
    "plan_from_plain",
    "plan_to_plain",
    "proposed",
    "recipe_to_plain",
    "sheet_1_to_2",
    "sheet_2_to_3",
    "sheet_3_to_4",
    "sheet_4_to_5",
    "sheet_5_to_6",
    "sheet_from_plain",
    "sheet_schema_fault",
    "sheet_sha256",
    "sheet_to_newest",
    "sheet_to_plain",
    "spread_over",
    "stints_of",
    "swatch_from_plain",
    "swatch_to_plain",
    "taken_from_paper",
    "to_newest",
    "touches_of",
    "what_changed",
    "work_of",
    "written",
    "zoning_of",
]
