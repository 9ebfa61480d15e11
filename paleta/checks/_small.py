"""Which regions are too small to shade with the medium's tip."""

from __future__ import annotations

TIP_MM = {"marker": 1.0, "watercolour": 1.2, "pencil": 0.5, "soluble": 0.8, "inkpad": 6.0}
"""Width of the finest usual stroke. From memory, common practice."""
TIPS_ACROSS = 2.0


def narrowest_shaded_mm(medium: str) -> float:
    """A region whose widest place is narrower than two strokes of the tip cannot hold two shades side by side: it gets
    one flat colour (common practice: tiny things get a single flat colour)."""
    return TIPS_ACROSS * TIP_MM[medium]
