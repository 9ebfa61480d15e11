"""Which media there are: each is a module of this package without an underscore."""

from __future__ import annotations

from pathlib import Path

from paleta.descriptions import codes_in

CODES = codes_in(Path(__file__).parent)
