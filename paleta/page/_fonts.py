"""The text face, embedded in every PDF so that it looks the same everywhere and can be selected and searched."""

from __future__ import annotations

import io
from importlib.resources import files

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "Paleta", "Paleta-Bold"
MISSING = "?"
SPELLED = {"≈": "~", "→": ">", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
"""What the face has no sign for, in signs it has."""


def _load(name: str, file: str) -> TTFont:
    font = TTFont(name, io.BytesIO((files("paleta.page") / "fonts" / file).read_bytes()))
    pdfmetrics.registerFont(font)
    return font


_FACES = {name: _load(name, file) for name, file in ((REGULAR, "regular.ttf"), (BOLD, "bold.ttf"))}


def fitting(text: str) -> str:
    """The text in signs the face has; any other one shows as a question mark rather than as an empty box."""
    known = _FACES[REGULAR].face.charToGlyph
    return "".join(SPELLED.get(sign, sign if ord(sign) in known else MISSING) for sign in text)


def width_of(text: str, font: str, size: float) -> float:
    """In points, or in whatever unit the size is.

    Parameters
    ----------
    text
        on one line
    font
        its name
    size
        of the type
    """
    return pdfmetrics.stringWidth(text, font, size)
