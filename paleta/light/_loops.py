"""The compiled loops, loaded when they are first needed: Numba takes a second."""

from __future__ import annotations

from functools import cache
from typing import Any


@cache
def loops() -> Any:
    from paleta.light import compiled

    return compiled


def warm_up() -> None:
    """Compile and load them: some seconds the first time, one later."""
    loops()
