"""Telling sheets apart."""

from __future__ import annotations

import hashlib
import json

from paleta.recipe import Sheet, sheet_to_plain


def sheet_sha256(sheet: Sheet) -> str:
    """Tells whether two sheets are the same."""
    return hashlib.sha256(json.dumps(sheet_to_plain(sheet), sort_keys=True).encode()).hexdigest()
