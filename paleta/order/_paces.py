"""How long things take in each medium, until the user's own times replace that."""

from __future__ import annotations

from paleta.media import MEDIUMS, Pace

PACES: dict[str, Pace] = {code: medium.pace for code, medium in MEDIUMS.items()}
