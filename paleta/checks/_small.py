"""Which regions are too small to shade with the medium's tip."""

from __future__ import annotations

from paleta.media import MEDIUMS

TIPS_ACROSS = 2.0


def narrowest_shaded_mm(medium: str) -> float:
    """A region whose widest place is narrower than two strokes of the tip cannot hold two shades side by side: it gets
    one flat colour (common practice: tiny things get a single flat colour)."""
    return TIPS_ACROSS * MEDIUMS[medium].tip_mm
