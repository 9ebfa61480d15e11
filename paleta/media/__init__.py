"""Media: each described in a module of its own, and how a swatch of it looks on a paper."""

from paleta.media._appearance import appearance, appearance_of_layers, blended, covers_of, doubt_of, seen_on, tip_to_tip
from paleta.media._layer import Layer
from paleta.media._medium import DRY_TURN, INK_TURN, WATER_TURN, Advice, Medium, Texture
from paleta.media._over import over, stack_fault
from paleta.media._pace import Pace
from paleta.media._registry import MEDIA, MEDIUMS
from paleta.media._school import (
    LONGEST_HOW,
    LONGEST_NAME,
    LONGEST_SUMMARY,
    MOST_STEPS,
    OWN_PREFIX,
    SCHOOL_SCHEMA,
    Join,
    School,
    SchoolStep,
    Where,
    Which,
    school_from_plain,
    school_to_plain,
)
from paleta.media._strength import LEAST_STRENGTH, at_strength, pen_name, strengths_of
from paleta.media._swatch import (
    DILUTED,
    FIRM_PRESSURE,
    FURTHER,
    LIGHT_PRESSURE,
    LONGEST_CODE,
    Swatch,
    code_at,
    code_fault,
    split_code,
)
from paleta.media._table import MEASURED, Row, read_table, write_csv, write_gpl
from paleta.media._words import SOLVENT

__all__ = [
    "DILUTED",
    "DRY_TURN",
    "FIRM_PRESSURE",
    "FURTHER",
    "INK_TURN",
    "LEAST_STRENGTH",
    "LIGHT_PRESSURE",
    "LONGEST_CODE",
    "LONGEST_HOW",
    "LONGEST_NAME",
    "LONGEST_SUMMARY",
    "MEASURED",
    "MEDIA",
    "MEDIUMS",
    "MOST_STEPS",
    "OWN_PREFIX",
    "SCHOOL_SCHEMA",
    "SOLVENT",
    "WATER_TURN",
    "Advice",
    "Join",
    "Layer",
    "Medium",
    "Pace",
    "Row",
    "School",
    "SchoolStep",
    "Swatch",
    "Texture",
    "Where",
    "Which",
    "appearance",
    "appearance_of_layers",
    "at_strength",
    "blended",
    "code_at",
    "code_fault",
    "covers_of",
    "doubt_of",
    "over",
    "pen_name",
    "read_table",
    "school_from_plain",
    "school_to_plain",
    "seen_on",
    "split_code",
    "stack_fault",
    "strengths_of",
    "tip_to_tip",
    "write_csv",
    "write_gpl",
]
