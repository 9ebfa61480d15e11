"""The compiled loop, loaded when it is first needed: Numba takes a second, which only modelling needs."""

from __future__ import annotations

from functools import cache
from typing import Any


@cache
def loops() -> Any:
    from paleta.light import compiled

    return compiled


def warm_up() -> None:
    """Compile and load it: some seconds the first time, one later."""
    loops()
