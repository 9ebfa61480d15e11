"""What is printed: the recipe on one page, and the card's drawings, cutting plan and lines to cut."""

from paleta.page._card_drawings import front, inside, lines_to_cut, mask_to_cut, sheet, side
from paleta.page._card_pdf import card_pdf
from paleta.page._drawing import DEPTHS, Drawing, to_svg
from paleta.page._look import card_look, cropped
from paleta.page._recipe import (
    CAUTION,
    ONE_PAGE_THINGS,
    Chip,
    Lettered,
    Ramp,
    RecipePage,
    Visit,
    letter_of,
    recipe_page,
    recipe_text,
    said_card,
    said_visit,
)
from paleta.page._recipe_pdf import PAPERS, recipe_pdf

__all__ = [
    "CAUTION",
    "DEPTHS",
    "ONE_PAGE_THINGS",
    "PAPERS",
    "Chip",
    "Drawing",
    "Lettered",
    "Ramp",
    "RecipePage",
    "Visit",
    "card_look",
    "card_pdf",
    "cropped",
    "front",
    "inside",
    "letter_of",
    "lines_to_cut",
    "mask_to_cut",
    "recipe_page",
    "recipe_pdf",
    "recipe_text",
    "said_card",
    "said_visit",
    "sheet",
    "side",
    "to_svg",
]
