"""What the stamped line asks for, whatever the medium. Common practice (docs/trade-notes.md, section Fit)."""

from __future__ import annotations

from collections.abc import Iterator

from paleta.colour import difference
from paleta.media import Advice
from paleta.recipe import Stamp

SEEN_FROM = 20.0
"""CIEDE2000 from which a camera tells a line from its paper for certain. From memory."""


def line_advice(stamp: Stamp) -> tuple[Advice, ...]:
    """What to mind of the line on its paper; empty if nothing.

    Parameters
    ----------
    stamp
        Of a sheet.
    """
    return tuple(_advice(stamp))


def _advice(stamp: Stamp) -> Iterator[Advice]:
    line, paper = stamp.line, stamp.paper_used
    if line.raised:
        yield Advice(
            "The line is raised: colour does not sink into it.",
            "Run over it without care, and wipe it with a soft cloth once all is dry. No roller press: its shine goes.",
        )
    elif "slides" in paper.behaves:
        yield Advice("Ink of a line stays wet on this paper.", "Dry the line with heat before any colour touches it.")
    if stamp.line_lab is not None and difference(stamp.line_lab, paper.lab) < SEEN_FROM:
        yield Advice(
            "No camera can tell this line from its paper.",
            "For a scan, stamp the same image once in dark ink on scrap. A photo check may not find the card.",
        )
