"""The demo's pieces: which drawing, scanned how, coloured with what."""

from __future__ import annotations

import re
from collections import defaultdict
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from demo.lineart import DRAWINGS, Drawing, sprays
from demo.scanner import BLACK_INK, WHITE_INK, Faults, scan
from paleta.colour import hex_to_lab
from paleta.impression import RegionMap
from paleta.light import Glow

SPRAY = 7
"""The seed of the plants in the photographed piece."""


@dataclass(frozen=True)
class DemoPiece:
    """school None leaves the piece as it comes from the scanner."""

    drawing: str
    title: str
    medium: str = "marker"
    school: str | None = None
    paper: str = "smooth-white"
    ink: str = "dye"
    lamp: tuple[float, float] = (315, 40)
    seed: int = 1
    faults: Faults = field(default_factory=Faults)
    finish: str = ""
    touches: tuple[str, ...] = ()
    card: str = ""
    glows: tuple[Glow, ...] = ()
    ink_rgb: tuple[float, float, float] = BLACK_INK
    photographed: bool = False

    def make(self) -> tuple[Drawing, bytes, NDArray[np.int32]]:
        drawing = DRAWINGS[self.drawing]() if self.drawing in DRAWINGS else sprays(SPRAY)
        data, seen = scan(drawing, paper=self.paper, faults=self.faults, seed=self.seed, ink_rgb=self.ink_rgb)
        return drawing, data, seen


PIECES = (
    DemoPiece(
        "balloon",
        "A poor scan, open outlines",
        seed=9,
        faults=Faults(turn_deg=1.6, patchy=0.9, specks=0.8, gaps=5, gap_mm=0.9, shading=0.18),
    ),
    DemoPiece(
        "spray",
        "White lines on kraft, photographed",
        paper="kraft",
        seed=4,
        faults=Faults(patchy=0.3, gaps=1, gap_mm=0.6),
        ink_rgb=WHITE_INK,
        photographed=True,
    ),
    DemoPiece(
        "succulents",
        "Three on the shelf",
        "watercolour",
        "W1",
        "cold-press",
        "waterproof",
        (45, 38),
        3,
        finish="On the spine tips and the pot spots.",
        touches=("white pen",),
        card="Six for the door: the greeting goes on the empty wall.",
    ),
    DemoPiece(
        "pangolin",
        "Pangolin at the telescope",
        "pencil",
        "P1",
        "toned-grey",
        "dye",
        (52, 34),
        2,
        finish="White pencil once more on the moon; gloss on the lantern glass.",
        touches=("gloss",),
        card="Emboss the greeting before the pencil comes near it.",
        glows=(Glow(x_mm=68.4, y_mm=108, reach_mm=16, tint="#ffd27a", reserve_mm=2),),
    ),
    DemoPiece(
        "balloon",
        "Balloon over the terraces",
        "marker",
        "M1",
        "smooth-white",
        "dye",
        (315, 40),
        1,
        finish="Along the lit rims; a little in the sky.",
        touches=("white pen", "splatter"),
    ),
)


@dataclass(frozen=True)
class Match:
    """What the drawing says about one found region."""

    label: int
    name: str
    form: str
    axis_deg: float | None
    base_mm: tuple[float, float] | None
    depth: int
    body: int
    shades: int
    wish_lab: tuple[float, float, float] | None


def wrongly_split(region_map: RegionMap, seen: NDArray[np.int32]) -> list[list[int]]:
    """Groups of found regions that are one visible part of one shape; a person would join them."""
    groups = []
    home = _home(region_map, seen)
    for number in range(1, int(seen.max()) + 1):
        labels = [label for label, shape in home.items() if shape == number]
        if len(labels) < 2:
            continue
        _, parts = cv2.connectedComponents((seen == number).astype(np.uint8), connectivity=4)
        by_part = defaultdict(list)
        for label in labels:
            inside = parts[(region_map.labels == label) & (parts > 0)]
            by_part[int(np.bincount(inside).argmax())].append(label)
        groups += [found for found in by_part.values() if len(found) > 1]
    return groups


def match(region_map: RegionMap, drawing: Drawing, seen: NDArray[np.int32], *, tilt_deg: float) -> list[Match]:
    """Name, form and colour of every region after its drawing."""
    depths, depth = {}, -1
    for number, shape in enumerate(drawing.shapes, start=1):
        if shape.closed and not shape.solid:
            depth += 0 if shape.beside else 1
        depths[number] = depth
    found, used, bodies = [], defaultdict(int), {}
    for label, number in _home(region_map, seen).items():
        shape = drawing.shapes[number - 1]
        used[shape.name] += 1
        name = shape.name if used[shape.name] == 1 else f"{shape.name} ({used[shape.name]})"
        axis = None if shape.axis_deg is None else (shape.axis_deg + tilt_deg) % 360
        found.append(
            Match(
                label,
                name,
                shape.form,
                axis,
                shape.base,
                depths[number],
                bodies.setdefault(shape.body, label) if shape.body else 0,
                shape.shades,
                hex_to_lab(shape.colour) if shape.colour else None,
            )
        )
    return found


def things_of(matches: list[Match]) -> dict[int, str]:
    """For every region the name of its thing: shapes of one word and one colour are one; empty if it is alone."""
    groups: dict[tuple[str, object], list[int]] = defaultdict(list)
    for one in matches:
        word = re.sub(r",.*$| \(\d+\)$", "", one.name)
        groups[re.sub(r" [\d.]+$", "", word), one.wish_lab].append(one.label)
    things, used = {}, defaultdict(int)
    for (word, _), labels in groups.items():
        if len(labels) > 1:
            used[word] += 1
            things |= dict.fromkeys(labels, word if used[word] == 1 else f"{word} {used[word]}")
    return {one.label: things.get(one.label, "") for one in matches}


def _home(region_map: RegionMap, seen: NDArray[np.int32]) -> dict[int, int]:
    """For every region the shape that most of it shows."""
    home = {}
    for region in region_map.regions:
        top, left, bottom, right = region.bbox
        inside = region_map.labels[top:bottom, left:right] == region.label
        votes = np.bincount(seen[top:bottom, left:right][inside])
        votes[0] = 0
        if votes.any():
            home[region.label] = int(votes.argmax())
    return home
