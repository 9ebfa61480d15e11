"""What code a kept result was made by."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

import paleta

CODE = (".py", ".npz", ".npy", ".json", ".csv")


@cache
def code_of(*packages: str) -> str:
    """Names the code and the tables of these packages of the core: 16 characters, others after any change of them."""
    found = hashlib.sha256()
    for package in packages:
        for path in sorted((Path(paleta.__file__).parent / package).rglob("*")):
            if path.suffix in CODE:
                found.update(path.name.encode())
                found.update(path.read_bytes())
    return found.hexdigest()[:16]
