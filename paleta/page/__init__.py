"""What is printed: the recipe on one page, and the card's drawings, cutting plan and lines to cut."""

from paleta.page._card_drawings import front, lines_to_cut, mask_to_cut
from paleta.page._card_pdf import card_pdf
from paleta.page._drawing import DEPTHS, to_svg
from paleta.page._look import card_look, cropped
from paleta.page._recipe import (
    CAUTION,
    Chip,
    RecipePage,
    letter_of,
    recipe_page,
    recipe_text,
    said_card,
    said_visit,
)
from paleta.page._recipe_pdf import recipe_pdf

__all__ = [
    "CAUTION",
    "DEPTHS",
    "Chip",
    "RecipePage",
    "card_look",
    "card_pdf",
    "cropped",
    "front",
    "letter_of",
    "lines_to_cut",
    "mask_to_cut",
    "recipe_page",
    "recipe_pdf",
    "recipe_text",
    "said_card",
    "said_visit",
    "to_svg",
]
