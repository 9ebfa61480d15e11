"""All media by their codes, in the order of lists."""

from __future__ import annotations

from paleta.descriptions import described_in
from paleta.media._medium import Medium

MEDIUMS = described_in("paleta.media", Medium)
MEDIA = {code: medium.name for code, medium in MEDIUMS.items()}
"""Names by code."""
