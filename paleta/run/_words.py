"""Names put into sentences."""

from __future__ import annotations

from collections.abc import Iterable

SHOWN = 4


def listed(names: Iterable[str]) -> str:
    """The first few of the names, each once, and how many more there are."""
    once = list(dict.fromkeys(names))
    shown = ", ".join(once[:SHOWN])
    return shown if len(once) <= SHOWN else f"{shown} and {len(once) - SHOWN} more"
