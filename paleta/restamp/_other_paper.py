"""What becomes of a plan on another paper, and which swatches would keep its look."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import Lab, as_lab, difference
from paleta.materials import Paper
from paleta.media import Swatch, appearance
from paleta.photo_check import kind_of
from paleta.picture import looks_of
from paleta.recipe import Coat, Sheet

TOLD = 3.0
"""CIEDE2000 from which a change of paper is told of a thing."""
BETTER = 0.7
"""Other swatches are offered if what is left of the change is less than this share of it."""


@dataclass(frozen=True, slots=True)
class PaperChange:
    """A thing that looks otherwise on another paper: its regions, before and after (mean of its zones), how far that is
    and in words; `instead` a ramp of its medium that comes nearer to how it looked, palest first, and how far that
    leaves it; empty where there is none."""

    name: str
    regions: tuple[int, ...]
    before: Lab
    after: Lab
    size: float
    sentence: str
    instead: tuple[Swatch, ...] = ()
    left: float = 0.0


def on_other_paper(sheet: Sheet, paper: Paper, drawers: Mapping[str, Sequence[Swatch]]) -> list[PaperChange]:
    """What changes if the sheet is coloured on `paper`, largest first; `drawers` are swatches at hand by medium.

    Parameters
    ----------
    sheet
        As planned.
    paper
        Another one.
    drawers
        Swatches at hand, by medium.
    """
    moved = sheet.with_part("stamp", paper=paper.code, own_paper=paper)
    before, after = looks_of(sheet), looks_of(moved)
    things: dict[str, list[int]] = {}
    for label, setting in sheet.regions.settings.items():
        if setting.coats and not setting.left_as_paper:
            things.setdefault(setting.thing or setting.name, []).append(label)
    found = []
    for name, labels in things.items():
        was, now = (np.mean([np.mean(looks[label], axis=0) for label in labels], axis=0) for looks in (before, after))
        size = float(difference(was, now))
        if size < TOLD:
            continue
        _, how = kind_of(as_lab(was), as_lab(now), "before")
        coat = sheet.regions.settings[labels[0]].coats[-1]
        instead, left = _instead(before[labels[0]], coat, paper, drawers.get(coat.medium, ()))
        if left > BETTER * size:
            instead, left = (), 0.0
        sentence = f"{name} {how} by {size:.0f} on {paper.name}."
        found.append(
            PaperChange(
                name, tuple(labels), as_lab(was), as_lab(now), round(size, 1), sentence, instead, round(left, 1)
            )
        )
    return sorted(found, key=lambda one: (-one.size, one.name))


def _instead(
    looks: Sequence[Lab], coat: Coat, paper: Paper, drawer: Sequence[Swatch]
) -> tuple[tuple[Swatch, ...], float]:
    """The swatches that look most like each zone on the paper, falling in lightness, and what they leave on average."""
    wanted = np.array(looks)[: len(coat.ramp)][::-1]
    if len(drawer) < len(wanted):
        return (), float("inf")
    shown = np.array([appearance(swatch, paper) for swatch in drawer])
    chosen: list[int] = []
    left = []
    for lab in wanted:
        off = np.asarray(difference(shown, lab[None]), float)
        if chosen:
            off[shown[:, 0] > shown[chosen[-1], 0] - 2] = np.inf
        best = int(off.argmin())
        if not np.isfinite(off[best]):
            return (), float("inf")
        chosen.append(best)
        left.append(float(off[best]))
    return tuple(drawer[place] for place in chosen), float(np.mean(left))
