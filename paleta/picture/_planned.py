"""The parts of a sheet as the picture of it needs them, and all of them together: the plan as pixels."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import find_objects

from paleta.colour import Lab, srgb_to_lab
from paleta.errors import ShapeError
from paleta.ground import bare, faded
from paleta.impression import RegionMap
from paleta.light import (
    ACCENTS,
    SCALE,
    Cover,
    Lamp,
    Relief,
    accent_cover,
    glow_tint,
    illuminate,
    levels,
    model_forms,
    printed_shading,
    reserved_zones,
    thresholds,
    zones_at,
)
from paleta.media import appearance, covers_of
from paleta.order import Pen
from paleta.picture._looks import looks_of
from paleta.picture._paint import SOFT_DRAWN, SOFT_GROUND, SOFT_LEVELS, AccentLayer, Canvas, paint
from paleta.recipe import Sheet, bodies_of, once_per_sheet, zoning_of

UNLIT = ("line", "ink", "regions")
"""Views that no lamp changes."""
ACCENTED = ("coloured", "values")


@once_per_sheet
def soft_of(sheet: Sheet) -> Mapping[int, float]:
    """How far the shades of each region melt: as those of its uppermost coat, and all the way on a ground or where one
    pen is drawn out."""
    return {
        label: SOFT_GROUND
        if one.fade is not None
        else SOFT_DRAWN
        if one.drawn_out
        else SOFT_LEVELS[one.coats[-1].medium]
        for label, one in sheet.regions.settings.items()
        if one.coats
    }


def accents_under(
    sheet: Sheet, lamp: Lamp, light_levels: NDArray[np.int32], labels: NDArray[np.int32], *, px_per_mm: float
) -> list[tuple[str, Pen, Cover]]:
    """Every accent of the sheet with its swatch and where it lies on `labels`, in the order of laying.

    Parameters
    ----------
    sheet
        What is planned.
    lamp
        Whose light the accents follow.
    light_levels
        h x w int32, 0..LEVELS.
    labels
        h x w int32.
    px_per_mm
        Of `labels`.
    """
    leads = sheet.regions.leads()
    groups: dict[tuple[str, Pen], dict[int, int]] = {}
    for label, setting in sheet.regions.settings.items():
        for accent in setting.accents:
            if setting.coats and not setting.left_as_paper:
                groups.setdefault((accent.kind, accent.pen), {})[label] = leads[label]
    order = list(ACCENTS)
    return [
        (kind, pen, accent_cover(kind, regions, labels, light_levels, lamp, px_per_mm=px_per_mm))
        for (kind, pen), regions in sorted(groups.items(), key=lambda group: (order.index(group[0][0]), group[0][1]))
    ]


def _accent_layer(sheet: Sheet, pen: Pen, share: NDArray[np.float32]) -> AccentLayer:
    """An accent of the sheet's swatch `pen`, as it looks where it lies."""
    paper, swatch = sheet.stamp.paper_used, sheet.colours.swatches[pen]
    return AccentLayer(share, appearance(swatch, paper), paper.lab, covers_of(swatch))


def _bare_of(sheet: Sheet, labels: NDArray[np.int32], *, px_per_mm: float) -> NDArray[np.bool_] | None:
    """Where on `labels` paper is left bare round glows and round the points of grounds; None if nowhere."""
    kept = reserved_zones(labels.shape, sheet.light.glows, px_per_mm=px_per_mm)
    for label, spec in sheet.regions.fades().items():
        ring = bare(labels.shape, spec, px_per_mm=px_per_mm)
        if ring is not None:
            ring &= labels == label
            kept = ring if kept is None else kept | ring
    return kept


@dataclass(frozen=True, eq=False)
class Planned:
    """A sheet as it should look, on every SCALE-th pixel of its map, without the stamped line.

    labels, zones  h x w int32 and uint8 (0 = deepest, NO_ZONE on paper). light: h x w float32 0..1.
    rgb            h x w x 3 uint8 sRGB. relief: what the light fell on. px_per_mm: of these pixels.
    """

    sheet: Sheet
    relief: Relief
    labels: NDArray[np.int32]
    zones: NDArray[np.uint8]
    light: NDArray[np.float32]
    rgb: NDArray[np.uint8]
    px_per_mm: float

    def lab_at(self, rows: NDArray[np.int64], cols: NDArray[np.int64]) -> NDArray[np.float64]:
        """N x 3 L*a*b* of pixels."""
        return srgb_to_lab(self.rgb[rows, cols] / 255)

    def box(self, regions: Collection[int], ring: int = 0) -> tuple[slice, slice]:
        """The part of the picture in which these regions lie, with so many pixels around it."""
        boxes = [box for one in regions if one <= len(self._boxes) and (box := self._boxes[one - 1]) is not None]
        down, across = (
            slice(max(min(side.start for side in sides) - ring, 0), max(side.stop for side in sides) + ring)
            for sides in (zip(*boxes, strict=True) if boxes else ((slice(0, 0),),) * 2)
        )
        return down, across

    @cached_property
    def _boxes(self) -> list[tuple[slice, slice] | None]:
        return find_objects(self.labels)


def planned(sheet: Sheet, region_map: RegionMap, relief: Relief | None = None) -> Planned:
    """The sheet's plan as pixels; `relief` as `model_forms` gives it for the sheet's bodies, if it is known.

    Parameters
    ----------
    sheet
        What is planned.
    region_map
        The sheet's own regions.
    relief
        As `paleta.light.model_forms` gives for the sheet's bodies, if it is known.
    """
    relief = relief or model_forms(region_map, bodies_of(sheet))
    light = lit(sheet, region_map, relief)
    labels, px_per_mm = np.ascontiguousarray(region_map.labels[::SCALE, ::SCALE]), region_map.px_per_mm / SCALE
    steps, zoning = levels(light), zoning_of(sheet)
    rgb = painted(sheet, labels, light, relief, looks=looks_of(sheet), soft=soft_of(sheet))
    return Planned(sheet, relief, labels, zones_at(steps, labels, zoning), light, rgb, px_per_mm)


def painted(
    sheet: Sheet,
    labels: NDArray[np.int32],
    light: NDArray[np.float32],
    relief: Relief,
    *,
    looks: Mapping[int, Sequence[Lab]],
    soft: Mapping[int, float],
) -> NDArray[np.uint8]:
    """h x w x 3 uint8 sRGB: the coloured picture without its line, of regions that look as `looks` says.

    Parameters
    ----------
    sheet
        What is planned.
    labels
        h x w int32 on every SCALE-th pixel.
    light
        h x w float32, 0..1.
    relief
        The surface, h x w.
    looks
        Lab of each zone by label, deepest first.
    soft
        By label, a part of the way from one shade to the next.
    """
    clean = np.full((*labels.shape, 3), 255, np.uint8)
    return compose(
        sheet,
        Canvas(labels=labels, photo=clean, bare=clean, inked=np.zeros_like(clean), ink_rgb=clean[0, 0]),
        "coloured",
        light,
        px_per_mm=relief.px_per_mm / SCALE,
        tints=glow_tint(relief, sheet.light.glows, full_size=False),
        looks=looks,
        soft=soft,
    )


def compose(
    sheet: Sheet,
    canvas: Canvas,
    view: str,
    light: NDArray[np.float32] | None,
    *,
    px_per_mm: float,
    lamp: Lamp | None = None,
    tints: Sequence[tuple[str, NDArray[np.float32]]] = (),
    looks: Mapping[int, Sequence[Lab]] | None = None,
    soft: Mapping[int, float] | None = None,
    with_accents: bool = True,
    quick: bool = False,
) -> NDArray[np.uint8]:
    """One view of a sheet on a canvas: the one way in which a picture is put together, whoever asks for it.

    Parameters
    ----------
    sheet : Sheet
        What is planned.
    canvas : Canvas
        The drawing at the size of the picture: its lines, regions and paper.
    view : str
        One of VIEWS.
    light : h x w float32, 0..1, or None
        As `sheet_light` gives it at the canvas's size; None for the views of UNLIT, on which none falls.
    px_per_mm : float
        Of the canvas's pixels.
    lamp : Lamp, optional
        Another than the sheet's, as `light` was made with.
    tints : sequence of h x w x 3
        What glows tint, as `glow_tint` gives it.
    looks, soft : mapping by label, optional
        Where regions look or melt otherwise than the sheet says.
    with_accents : bool
        Thin lines that follow the light; while the lamp moves they are left out.
    quick : bool
        For a lamp that moves: from a coarser table of colours.

    Returns
    -------
    h x w x 3 uint8 sRGB
    """
    labels, steps = canvas.labels, np.zeros(canvas.labels.shape, np.int32)
    starts: Mapping[int, NDArray[np.int32]] = {}
    kept = None
    if view not in UNLIT:
        if light is None:
            raise ShapeError(f"The view {view!r} needs its light.")
        steps = levels(light)
        starts = thresholds(steps, labels, zoning_of(sheet))
        kept = _bare_of(sheet, labels, px_per_mm=px_per_mm)
    covers = (
        accents_under(sheet, lamp or sheet.light.lamp, steps, labels, px_per_mm=px_per_mm)
        if with_accents and view in ACCENTED
        else []
    )
    return paint(
        canvas,
        view,
        light_levels=steps,
        looks=looks_of(sheet) if looks is None else looks,
        thresholds=starts,
        paper_lab=sheet.stamp.paper_used.lab,
        soft=soft_of(sheet) if soft is None else soft,
        accents=[_accent_layer(sheet, pen, cover.share) for _, pen, cover in covers],
        tints=tints,
        bare=kept,
        quick=quick,
        line_lab=sheet.stamp.line_lab,
    )


def lit(sheet: Sheet, region_map: RegionMap, relief: Relief, lamp: Lamp | None = None) -> NDArray[np.float32]:
    """The light of the sheet's lamp (or another) and glows on every SCALE-th pixel, 0..1; on grounds their fade.

    Parameters
    ----------
    sheet
        What is planned.
    region_map
        H x W labels.
    relief
        As `paleta.light.model_forms` gives for the sheet's bodies.
    lamp
        Another lamp than the sheet's.

    Returns
    -------
    h x w float32, as the relief.
    """
    fades, grounds = sheet.regions.fades(), None
    if fades:
        labels = np.ascontiguousarray(region_map.labels[::SCALE, ::SCALE])
        grounds = faded(labels, fades, px_per_mm=region_map.px_per_mm / SCALE)
    printed = printed_shading(region_map) if sheet.light.follow else None
    return sheet_light(sheet, relief, lamp=lamp, printed=printed, grounds=grounds)


def sheet_light(
    sheet: Sheet,
    relief: Relief,
    *,
    lamp: Lamp | None = None,
    full_size: bool = False,
    printed: NDArray[np.float32] | None = None,
    glowing: NDArray[np.float32] | None = None,
    grounds: tuple[NDArray[np.bool_], NDArray[np.float32]] | None = None,
) -> NDArray[np.float32]:
    """The light of a sheet on a relief.

    Parameters
    ----------
    sheet : Sheet
        Its lamp, glows, bodies and grounds.
    relief : Relief
        The modelled forms of its bodies.
    lamp : Lamp, optional
        Another than the sheet's.
    full_size : bool
        On every pixel; else on the relief's own.
    printed, glowing : h x w float32, optional
        The shading that is printed on the stamp, if the sheet follows it, and the glows' light, where it is known.
    grounds : (h x w bool, float32 of N), optional
        Where grounds lie, and their light there, which takes the place of the lamp's.

    Returns
    -------
    h x w float32, 0..1
    """
    light = illuminate(
        relief,
        lamp or sheet.light.lamp,
        sheet.light.glows,
        full_size=full_size,
        shadows=sheet.light.shadows,
        printed=printed,
        follow=sheet.light.follow,
        glowing=glowing,
    )
    if grounds is not None:
        where, fades = grounds
        light[where] = fades
    return light
