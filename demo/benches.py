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
from paleta.ground import Fade
from paleta.impression import RegionMap
from paleta.light import Glow


@dataclass(frozen=True)
class DemoGround:
    """way       how it is laid; wishes are its colours, one for each band where widths_mm cuts it into some.
    first     laid before the figure; else the figure is masked for it, or stands beside what needs no mask.
    splatter  its own darkest swatch is splattered over it.
    """

    way: str
    wishes: tuple[str, ...]
    fade: Fade = field(default_factory=Fade)
    widths_mm: tuple[float, ...] = ()
    masked: bool = False
    first: bool = False
    splatter: bool = False


@dataclass(frozen=True)
class DemoAccent:
    """An accent on all that is coloured of the figure, in the swatch of a drawer that is usual for it."""

    kind: str
    medium: str


@dataclass(frozen=True)
class DemoPiece:
    """school None leaves the piece as it comes from the scanner. drawing is one of DRAWINGS, or the number of a spray;
    glossy puts it on a glossy card of the user's own; drawn_out lays each thing with one pen that ends in bare paper.
    """

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
    glossy: bool = False
    ground: DemoGround | None = None
    over: str = ""
    accents: tuple[DemoAccent, ...] = ()
    drawn_out: bool = False
    powder: str = ""

    def make(self) -> tuple[Drawing, bytes, NDArray[np.int32]]:
        drawing = DRAWINGS[self.drawing]() if self.drawing in DRAWINGS else sprays(int(self.drawing))
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
        "7",
        "White lines on kraft, photographed",
        "pencil",
        "P1",
        paper="kraft",
        ink="embossed",
        powder="white",
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
        # Washed walls beside a figure in waterproof ink, background first, splatter last on it.
        ground=DemoGround("wash", ("#c9a58c",), Fade(kind="figure", reach_mm=22), first=True, splatter=True),
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
        # A night in dark marker round the lantern's glow, and a deeper pencil in the creases.
        ground=DemoGround(
            "one way", ("#3a4a70",), Fade(kind="point", x_mm=68.4, y_mm=108, reach_mm=26, bare_mm=3), first=True
        ),
        accents=(DemoAccent("crease", "pencil"),),
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
        # A marker figure under its mask, and a sky of blended inks behind it.
        ground=DemoGround("circles", ("#86c0e6",), masked=True),
    ),
    DemoPiece(
        "12",
        "A sprig before three stripes",
        school="M2",
        lamp=(300, 42),
        seed=12,
        # Stripes by tape, each ink deeper than the last; pencil over all of the marker, its shadow and white rims.
        ground=DemoGround("circles", ("#3f4a86", "#4f8fd0", "#a9d4f0"), widths_mm=(30, 34, 38), first=True),
        over="pencil",
        accents=(DemoAccent("shadow", "pencil"), DemoAccent("rim", "pencil")),
    ),
    DemoPiece(
        "21",
        "A sprig drawn out to paper",
        "soluble",
        "D2",
        "cold-press",
        "embossed",
        (45, 40),
        21,
        powder="gold",
        # One pen to a thing, pulled with a wet brush until only paper is left, before a pale washed sky; once it is
        # dry, dry pigment in the deepest places.
        drawn_out=True,
        ground=DemoGround("wash", ("#bcd8ea",), Fade(kind="figure", reach_mm=20), first=True),
        accents=(DemoAccent("crease", "pencil"),),
    ),
    DemoPiece(
        "33",
        "A sprig on glossy card",
        school="M2",
        lamp=(320, 45),
        seed=33,
        glossy=True,
        # Ink pounced with felt, marker details over it once it is dry.
        ground=DemoGround("pounced", ("#c8a062",), Fade(from_deg=180), first=True),
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
