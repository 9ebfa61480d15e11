"""Pigment ink that water does not move once it is bone dry."""

from paleta.materials._line import Line

LINE = Line("waterproof", "Waterproof pigment ink, bone dry", 2, words=frozenset({"dragged by alcohol"}))
