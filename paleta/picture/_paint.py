"""From light levels and looks to pixels, by one table look-up per pixel."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import Lab, lab_to_srgb, srgb_to_lab
from paleta.errors import PaletaError
from paleta.impression import Impression, RegionMap
from paleta.light import LEVELS
from paleta.media import MEDIUMS
from paleta.picture._texture import NEUTRAL, texture

VIEWS = ("line", "ink", "regions", "clay", "values", "coloured")
COLOURLESS = ("values", "clay")
SOFT_DRAWN = 0.95
"""What is drawn out melts over nearly all of the way, as far as its zones are wide."""
SOFT_LEVELS = {code: medium.melts for code, medium in MEDIUMS.items()}
"""Part of the way to the next zone over which two shades melt, by medium. From memory, common practice."""
SOFT_GROUND = 1.0
"""A fade melts over all of the way."""
GROUND_REACH = 4.0
"""A ground's zones are wider than a region's, and so is what melts of them."""
TABLE_STEP = 2
"""Colours are worked out for every second level of light and held in between: steps of 0.4 % are not seen."""
QUICK_STEP = 8
TINT_STRENGTH = 0.85
INK_RGB = np.array((26, 24, 26), np.uint8)
"""Of the view that shows only what was taken as ink, and of outlines too dark for their colour to be measured."""
DARKEST_MEASURED = 70
"""sRGB level; a darker outline is black, and the scanner's lamp is what makes it grey."""
CLAY_DARKEST, CLAY_PALEST = 18.0, 94.0
"""L* of clay in no light and in all of it. From memory: what a photo of a plaster cast spans."""
PALE_INK = 128
"""An outline whose levels lie above this is lighter than most papers; tints are dark beneath it."""


@dataclass(frozen=True, eq=False)
class AccentLayer:
    """An accent in the picture: where (h x w, 0..1), its colour on paper, and the share of what is below that it
    covers for good; None = it is transparent and multiplies, as glazes do."""

    share: NDArray[np.float32]
    lab: Lab
    paper_lab: Lab
    covers: float | None

    def over(self, colours: NDArray[np.uint8], *, grey: bool) -> NDArray[np.uint8]:
        """`colours` (h x w x 3) with the accent on them."""
        rows, cols = np.flatnonzero(self.share.any(axis=1)), np.flatnonzero(self.share.any(axis=0))
        if not rows.size:
            return colours
        box = (slice(rows[0], rows[-1] + 1), slice(cols[0], cols[-1] + 1))
        share, below = self.share[box][..., None], colours[box].astype(np.float32)
        own, paper = (np.array((lab[0], 0, 0) if grey else lab) for lab in (self.lab, self.paper_lab))
        rgb = (255 * lab_to_srgb(own)).astype(np.float32)
        if self.covers is None:
            laid = below * np.minimum(rgb / np.maximum(255 * lab_to_srgb(paper), 1), 1)
        else:
            laid = below + self.covers * (rgb - below)
        result = colours.copy()
        result[box] = np.clip(below + share * (laid - below) + 0.5, 0, 255).astype(np.uint8)
        return result


class ViewUnknown(PaletaError, ValueError):
    """There is no such view of the picture."""

    code = "view_unknown"


@dataclass(frozen=True, eq=False)
class Canvas:
    """What does not change while the lamp turns.

    labels  h x w int32; photo h x w x 3 uint8 sRGB.
    texture  h x w x 3 uint8 or None, see _texture.py.
    bare    h x w x 3 uint8, 255 where no ink covers; inked the same, the colour the ink adds.
    ink_rgb  3 uint8, the colour of the outline as measured.
    """

    labels: NDArray[np.int32]
    photo: NDArray[np.uint8]
    bare: NDArray[np.uint8]
    inked: NDArray[np.uint8]
    ink_rgb: NDArray[np.uint8]
    texture: NDArray[np.uint8] | None = None

    @cached_property
    def offsets(self) -> NDArray[np.int64]:
        """Where each pixel's region begins in a table of regions by levels."""
        return self.labels.astype(np.int64) * LEVELS

    def places(self, light_levels: NDArray[np.int32]) -> NDArray[np.int64]:
        """Where each pixel stands in a table of regions by levels."""
        return self.offsets + light_levels


def make_canvas(
    impression: Impression, region_map: RegionMap, step: int = 1, media: Mapping[int, str] | None = None
) -> Canvas:
    """Every `step`-th pixel of the picture, ready to paint on; `media` are those on top of the regions that are not
    coloured in marker.

    Parameters
    ----------
    impression
        The scan, H x W.
    region_map
        Of the same H x W.
    step
        In pixels of the scan.
    media
        Codes by label; regions that are not named are taken for marker.
    """
    size = (-(-region_map.labels.shape[1] // step), -(-region_map.labels.shape[0] // step))
    photo = np.clip(impression.pixels * 255 + 0.5, 0, 255).astype(np.uint8)
    # Only what was taken as ink stays dark: grain, dust and the scanner's shading do not belong on the plan.
    near = cv2.GaussianBlur(region_map.ink.astype(np.float32), (0, 0), 0.8)
    if step > 1:
        photo = cv2.resize(photo, size, interpolation=cv2.INTER_AREA)
        near = cv2.resize(near, size, interpolation=cv2.INTER_AREA)
    ink = np.clip(near * 1.15, 0, 1)[..., None]
    labels = np.ascontiguousarray(region_map.labels[::step, ::step])
    bare = np.repeat((255 * (1 - ink) + 0.5).astype(np.uint8), 3, axis=2)
    ink_rgb = _ink_colour(impression, region_map)
    return Canvas(
        labels=labels,
        texture=texture(labels, media or {}, region_map.px_per_mm / step),
        photo=photo,
        bare=bare,
        inked=_inked(bare, ink_rgb),
        ink_rgb=ink_rgb,
    )


def _inked(bare: NDArray[np.uint8], rgb: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """What an outline of this colour adds to the colours beneath it."""
    cover = cv2.bitwise_not(bare)
    return np.asarray(cv2.multiply(cover, np.broadcast_to(rgb, cover.shape).copy(), scale=1 / 255), np.uint8)


def _ink_colour(impression: Impression, region_map: RegionMap) -> NDArray[np.uint8]:
    """The usual colour in the middle of the lines; black where they are as good as black."""
    ink = region_map.ink.astype(np.uint8)
    core = cv2.erode(ink, np.ones((3, 3), np.uint8))
    found = impression.pixels[(core if core.any() else ink) > 0]
    if not len(found):
        return INK_RGB
    measured = np.median(found, axis=0) * 255
    return np.asarray(measured if measured.max() > DARKEST_MEASURED else INK_RGB, np.uint8)


def paint(
    canvas: Canvas,
    view: str,
    *,
    light_levels: NDArray[np.int32],
    looks: Mapping[int, Sequence[Lab]],
    thresholds: Mapping[int, NDArray[np.int32]],
    paper_lab: Lab,
    soft: Mapping[int, float] | None = None,
    accents: Sequence[AccentLayer] = (),
    tints: Sequence[tuple[str, NDArray[np.float32]]] = (),
    bare: NDArray[np.bool_] | None = None,
    quick: bool = False,
    line_lab: Lab | None = None,
) -> NDArray[np.uint8]:
    """One view as h x w x 3 uint8 sRGB.

    line      the scan itself. ink: only what was taken as ink. coloured: as planned.
    regions   every region in its own tint of grey. clay: all of it in one grey, with nothing but form and light.
    values    the same with lightness alone, the grey value study.

    Parameters
    ----------
    canvas
        h x w, as `make_canvas` gives.
    view
        One of VIEWS.
    light_levels
        h x w int32, 0..LEVELS.
    looks
        Lab of each zone by label, deepest first.
    thresholds
        By label, as `paleta.light.thresholds` gives.
    paper_lab
        Lab of the paper.
    soft
        By label, how far its shades melt into each other, a part of the way to the next; SOFT_LEVELS of marker
        where nothing is said.
    accents
        In the order they are laid; they lie over all of it.
    tints
        "#rrggbb" with the share that each pixel catches, h x w float32.
    bare
        h x w bool, where paper is left bare.
    quick
        Holds each colour over more levels of light: for pictures that last no longer than the lamp moves.
    line_lab
        Lab of the outline on the card, where it is not as in the scan.
    """
    if view not in VIEWS:
        raise ViewUnknown(f"There is no view {view!r}; choose one of {', '.join(VIEWS)}.")
    if view == "line":
        return canvas.photo
    if view == "ink":
        return cv2.add(canvas.bare, _inked(canvas.bare, INK_RGB))
    count = int(canvas.labels.max()) + 1
    if view == "clay":
        colours = _clay(canvas, light_levels)
    elif view == "regions":
        colours = _tints(count, pale_lines=bool(canvas.ink_rgb.min() > PALE_INK))[canvas.labels]
    else:
        table = _table(
            count,
            looks,
            thresholds,
            paper_lab,
            soft or {},
            view == "values",
            QUICK_STEP if quick else TABLE_STEP,
        )
        # Four bytes are fetched at once: a look-up of whole pixels is several times faster than of channels.
        packed = np.concatenate([table, np.zeros((*table.shape[:2], 1), np.uint8)], axis=2).view(np.uint32).ravel()
        pixels = np.take(packed, canvas.places(light_levels))
        colours = cv2.cvtColor(pixels.view(np.uint8).reshape(*pixels.shape, 4), cv2.COLOR_RGBA2RGB)
        if view == "coloured" and canvas.texture is not None:
            laid = np.zeros(count, bool)
            laid[[label for label in looks if label < count and label in thresholds]] = True
            grain = np.full_like(canvas.texture, NEUTRAL)
            cv2.copyTo(canvas.texture, np.take(laid, canvas.labels).view(np.uint8), grain)
            colours = cv2.multiply(colours, grain, scale=1 / NEUTRAL)
        for one in accents:
            colours = one.over(colours, grey=view == "values")
        colours = _tinted(colours, canvas.labels, tints) if view == "coloured" else colours
        if bare is not None:
            paper = (paper_lab[0], 0.0, 0.0) if view == "values" else paper_lab
            colours[bare] = (lab_to_srgb(np.array(paper)) * 255 + 0.5).astype(np.uint8)
    ink_rgb = canvas.ink_rgb if line_lab is None else _rgb_of(line_lab)
    if view in COLOURLESS:
        ink_rgb = _grey_of(ink_rgb)
    elif view == "regions" and line_lab is not None:
        ink_rgb = canvas.ink_rgb  # the tints are made for the scan's own line to stand out
    inked = canvas.inked if ink_rgb is canvas.ink_rgb else _inked(canvas.bare, ink_rgb)
    return cv2.add(cv2.multiply(colours, canvas.bare, scale=1 / 255), inked)


def _clay(canvas: Canvas, light_levels: NDArray[np.int32]) -> NDArray[np.uint8]:
    """The light itself, h x w x 3; paper round the drawing is the palest of it."""
    lightness = CLAY_DARKEST + (CLAY_PALEST - CLAY_DARKEST) * np.linspace(0, 1, LEVELS)
    lab = np.stack([lightness, np.zeros(LEVELS), np.zeros(LEVELS)], axis=1)
    greys = (lab_to_srgb(lab) * 255 + 0.5).astype(np.uint8)[:, 0]
    shown = np.where(canvas.labels == 0, greys[-1], greys[light_levels])
    return cv2.cvtColor(shown, cv2.COLOR_GRAY2RGB)


def _rgb_of(lab: Lab) -> NDArray[np.uint8]:
    return np.asarray(lab_to_srgb(np.array(lab)) * 255 + 0.5, np.uint8)


def _grey_of(rgb: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """The grey of the same lightness."""
    light = float(srgb_to_lab(rgb / 255)[0])
    return _rgb_of((light, 0.0, 0.0))


def _tinted(
    colours: NDArray[np.uint8], labels: NDArray[np.int32], tints: Sequence[tuple[str, NDArray[np.float32]]]
) -> NDArray[np.uint8]:
    """A glow's colour lies over what it lights like a thin glaze: it multiplies, as glazes do."""
    for tint, share in tints:
        rgb = np.array([int(tint[k : k + 2], 16) for k in (1, 3, 5)], np.float32) / 255
        part = (TINT_STRENGTH * share * (labels > 0)).astype(np.float32)
        glaze = cv2.merge([1 - part * float(1 - channel) for channel in rgb])
        colours = cv2.multiply(colours, glaze, dtype=cv2.CV_8U)
    return colours


def _table(
    count: int,
    looks: Mapping[int, Sequence[Lab]],
    thresholds: Mapping[int, NDArray[np.int32]],
    paper_lab: Lab,
    soft: Mapping[int, float],
    grey: bool,
    hold: int,
) -> NDArray[np.uint8]:
    """count x LEVELS x 3: the colour of every region at every level of light; paper where a region has no look."""
    ladder = np.arange(0, LEVELS, hold)
    lab = np.empty((count, len(ladder), 3))
    lab[:] = paper_lab
    alike: dict[int, list[int]] = {}
    for label, zones in looks.items():
        starts = thresholds.get(label)
        if label < count and starts is not None and len(starts) == len(zones) - 1:
            alike.setdefault(len(zones), []).append(label)
    for labels in alike.values():
        shades = np.array([looks[label] for label in labels], float)
        way = np.array([soft.get(label, SOFT_LEVELS["marker"]) for label in labels])
        melted = _melted(np.array([thresholds[label] for label in labels], float), ladder, way)
        lab[labels] = shades[:, :1] + melted @ np.diff(shades, axis=1)
    if grey:
        lab[..., 1:] = 0
    return np.repeat((lab_to_srgb(lab) * 255 + 0.5).astype(np.uint8), hold, axis=1)


def _melted(starts: NDArray[np.float64], ladder: NDArray[np.int64], soft: NDArray[np.float64]) -> NDArray[np.float64]:
    """R x levels x thresholds: how far each region has passed each of its thresholds at each level, 0..1. Within a
    zone it is flat; round a threshold one shade melts into the next, which never begins before the last is done."""
    rows, passed = starts.shape
    edges = np.concatenate([np.zeros((rows, 1)), starts, np.full((rows, 1), LEVELS - 1.0)], axis=1)
    # What melts all the way may do so as far as its zones are wide.
    most = np.where(soft >= SOFT_GROUND, GROUND_REACH, 1.0)[:, None] * LEVELS / 8
    reach = soft[:, None] * np.minimum(np.minimum(np.diff(edges)[:, :-1], np.diff(edges)[:, 1:]), most)
    reach = np.maximum(reach, 0.5)
    bounds = np.stack([starts - reach, starts + reach], axis=2).reshape(rows, 2 * passed)
    low, high = np.moveaxis(np.maximum.accumulate(np.maximum(bounds, 0), axis=1).reshape(rows, passed, 2), 2, 0)
    way = (ladder[None, :, None] - low[:, None]) / np.maximum(high - low, 1e-6)[:, None]
    return np.clip(way, 0.0, 1.0)


def _tints(count: int, *, pale_lines: bool) -> NDArray[np.uint8]:
    """A tint per label; neighbours in number differ clearly. Grey, so that colour stays with the swatches, and dark
    beneath pale lines."""
    lightness = (28 if pale_lines else 62) + 34 * ((np.arange(count) * 0.618034) % 1)
    lightness[0] = 22 if pale_lines else 100
    lab = np.stack([lightness, np.zeros(count), np.zeros(count)], axis=1)
    return (lab_to_srgb(lab) * 255).astype(np.uint8)
