"""Whose pace a plan is made for. Logged runs teach it; they stand above the pieces and hand it in."""

from __future__ import annotations

from collections.abc import Callable

from paleta.order import PACES, Pace

Source = Callable[[int, str], tuple[Pace, int]]


def _of_the_trade(owner_id: int, medium: str) -> tuple[Pace, int]:
    return PACES[medium], 0


_sources: list[Source] = [_of_the_trade]


def hand_in(source: Source) -> None:
    """From now on `source(owner_id, medium)` gives the pace and how many runs it was learnt from."""
    _sources[:] = [source]


def pace_of(owner_id: int, medium: str) -> tuple[Pace, int]:
    """The pace of whoever works, and how many runs it was learnt from; common practice while nobody handed one in."""
    return _sources[0](owner_id, medium)
