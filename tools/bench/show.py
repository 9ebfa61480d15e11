"""How figures are taken and shown."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Sequence
from typing import Any

RUNS = 7
BEFORE = {
    "read and find regions, 600 dpi": 2006,
    "find regions": 614,
    "model forms": 1157,
    "lamp turn, core": 24,
    "lamp turn with two glows, core": 22,
    "ramps of 4 from 1,000 swatches": 21,
    "plan, 60 regions of 3 passes": 858,
    "lamp turn, server": 58,
    "preview after a change of colour, server": 110,
    "lamp turn, browser (pointer to painted)": 76,
    "list of 200 versions": 23_600,
    "logging a run": 6000,
    "another lamp while a version is kept": 1600,
    "lamp of 8 people at once, 95th percentile": 800,
}
"""Milliseconds, on the machine that `now` was last written down for too; the last four were measured from outside."""


def head() -> None:
    print(f"{'':44}{'before':>10}{'now':>10}{'aim':>10}   ratio to a baseline")


def timed(work: Callable[[], Any], runs: int = RUNS) -> list[float]:
    """Seconds of each run, after one that is not counted."""
    work()
    return [once(work) for _ in range(runs)]


def once(work: Callable[[], Any]) -> float:
    """Seconds that it takes."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def show(
    name: str, seconds: Sequence[float], aim_ms: float, baseline: Sequence[float] | None = None, of: str = ""
) -> None:
    """A line: the median, what it was before, what it should be, and how it stands to a baseline or other words."""
    median = statistics.median(seconds)
    rest = f"{median / statistics.median(baseline):8.2f} x {of}" if baseline else of
    before = f"{BEFORE[name]:7,} ms" if name in BEFORE else ""
    print(f"{name:44}{before:>10}{median * 1000:7.0f} ms{aim_ms:7.0f} ms   {rest}", flush=True)


def late(seconds: Sequence[float], share: float = 0.95) -> float:
    """The value that `share` of them stay under."""
    return sorted(seconds)[int(share * len(seconds))]
