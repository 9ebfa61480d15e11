"""Which media there are: each is a module of this package without an underscore, named by the medium's code."""

from __future__ import annotations

import pkgutil
from pathlib import Path

CODES = tuple(
    sorted(one.name for one in pkgutil.iter_modules([str(Path(__file__).parent)]) if not one.name.startswith("_"))
)
