"""Cautions that more than one place says."""

SOLVENT = "Alcohol and its vapour burn: no heat tool or flame near it, air the room, follow the label."
ALCOHOL_INK = (
    "Alcohol ink and its vapour burn: no heat tool or flame near it, air the room, gloves if skin is sensitive; follow "
    "the maker's label and the local rules."
)
