"""The lamp and glows falling on a relief."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.light._lamp import Glow, Lamp
from paleta.light._relief import SCALE, Relief
from paleta.light._shadow import cast_shadow

SHADOW_DARK = 0.8
"""Part of the lamp's light that a cast shadow takes; the rest comes round from what is lit. From memory."""
PRINTED_DARK = 0.75
"""Part of the light that densely printed shading takes when it is followed whole."""


def illuminate(
    relief: Relief,
    lamp: Lamp,
    glows: Sequence[Glow] = (),
    *,
    full_size: bool = True,
    shadows: bool = True,
    printed: NDArray[np.float32] | None = None,
    follow: float = 0.0,
    glowing: NDArray[np.float32] | None = None,
) -> NDArray[np.float32]:
    """Light on every pixel, 0..1.

    Lambert's cosine law ([Lambert1760]) for the lamp and for glows with distance fall-off, plus ambient; nearer
    bodies cast shadows in the lamp's light, and tucked ends are dark.

    Parameters
    ----------
    relief
        The surface, h x w.
    lamp
        Azimuth and height in degrees, ambient 0..1.
    glows
        Lights within the picture.
    full_size
        Whether the answer has the label map's H x W; else the relief's h x w, which is enough for a picture on
        screen.
    shadows
        Whether nearer bodies cast shadows in the lamp's light.
    printed
        h x w float32, 0..1, shading on the stamp (see `printed_shading`).
    follow
        How far the light bends towards `printed`, 0..1.
    glowing
        What `glow_light` gave for the same glows: it does not change while the lamp turns.

    Returns
    -------
    float32, 0..1.
    """
    facing = relief.facing @ np.array(lamp.direction, np.float32)
    np.clip(facing, 0, 1, out=facing)
    shade = cast_shadow(relief, lamp) if shadows else None
    if shade is not None:
        facing *= 1 - SHADOW_DARK * shade
    light = lamp.ambient + (1 - lamp.ambient) * facing
    light *= 1 - relief.tuck
    if printed is not None and follow > 0:
        light *= 1 - np.float32(PRINTED_DARK * follow) * printed
    if glowing is None and glows:
        glowing = glow_light(relief, glows)
    if glowing is not None:
        light += np.float32(1 - lamp.ambient) * glowing
    np.clip(light, 0, 1, out=light)
    if not full_size:
        return light
    return _enlarged(light, relief.shape)


def glow_tint(
    relief: Relief, glows: Sequence[Glow], *, full_size: bool = True
) -> list[tuple[str, NDArray[np.float32]]]:
    """For every tinted glow its tint and how much of it each pixel catches, 0..1.

    Parameters
    ----------
    relief
        The surface.
    glows
        Those without a tint are left out.
    full_size
        Whether the answer has the label map's H x W, or the relief's h x w.

    Returns
    -------
    Pairs of "#rrggbb" and float32 shares, 0..1.
    """
    caught = []
    for glow in glows:
        if glow.tint:
            share = np.clip(_glow_light(relief, glow), 0, 1)
            caught.append((glow.tint, _enlarged(share, relief.shape) if full_size else share))
    return caught


def reserved_zones(shape: tuple[int, int], glows: Sequence[Glow], *, px_per_mm: float) -> NDArray[np.bool_] | None:
    """Where paper is left bare round glows, on a picture of `shape` with `px_per_mm`; None if nowhere.

    Parameters
    ----------
    shape
        h, w in pixels.
    glows
        Position and reach in mm.
    px_per_mm
        Of the picture.

    Returns
    -------
    h x w bool, or None.
    """
    circles = [glow for glow in glows if glow.reserve_mm > 0]
    if not circles:
        return None
    rows, cols = np.ogrid[: shape[0], : shape[1]]
    bare = np.zeros(shape, bool)
    for glow in circles:
        away = (cols - glow.x_mm * px_per_mm) ** 2 + (rows - glow.y_mm * px_per_mm) ** 2
        bare |= away <= (glow.reserve_mm * px_per_mm) ** 2
    return bare


def _enlarged(light: NDArray[np.float32], shape: tuple[int, int]) -> NDArray[np.float32]:
    large = cv2.resize(light, (light.shape[1] * SCALE, light.shape[0] * SCALE), interpolation=cv2.INTER_LINEAR)
    return np.ascontiguousarray(large[: shape[0], : shape[1]])


def glow_light(relief: Relief, glows: Sequence[Glow]) -> NDArray[np.float32]:
    """The light of all glows on the relief's own h x w, without ambient and not clipped.

    Parameters
    ----------
    relief
        The surface, h x w on every `step_px`-th pixel.
    glows
        Position and reach in mm.

    Returns
    -------
    h x w float32, not clipped to 1.
    """
    total = np.zeros(relief.height.shape, np.float32)
    for glow in glows:
        total += _glow_light(relief, glow)
    return total


def _glow_light(relief: Relief, glow: Glow) -> NDArray[np.float32]:
    px_per_mm = relief.px_per_mm
    step_mm = relief.step_px / px_per_mm
    rows, cols = (np.arange(size, dtype=np.float32) * np.float32(step_mm) for size in relief.height.shape)
    across, down = np.float32(glow.x_mm) - cols[None, :], np.float32(glow.y_mm) - rows[:, None]
    up = np.float32(glow.height_mm) - relief.height / np.float32(px_per_mm)
    distance = np.sqrt(np.maximum(across**2 + down**2 + up**2, np.float32(1e-6)))
    normals = relief.normals
    cosine = np.clip((normals[..., 0] * across + normals[..., 1] * down + normals[..., 2] * up) / distance, 0, 1)
    return np.float32(glow.strength) * cosine / (1 + distance / np.float32(glow.reach_mm)) ** 2
