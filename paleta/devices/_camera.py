"""The simulated camera: photographs a stamped sheet that lies askew on a table, seen at a slant, under uneven light."""

from __future__ import annotations

import io

import cv2
import numpy as np
from PIL import Image

WARM = (1.03, 1.0, 0.93)
TABLE_LAB_RGB = (0.36, 0.33, 0.31)


def photograph(
    sheet: bytes,
    *,
    seed: int = 1,
    slant: float = 0.08,
    size_px: tuple[int, int] = (2100, 1575),
    upside_down: bool = False,
    blur_px: float = 0.8,
    cast: tuple[float, float, float] = WARM,
    shift: tuple[float, float] = (0.0, 0.0),
) -> tuple[bytes, list[tuple[float, float]]]:
    """JPEG bytes of the photo without any resolution, and where the sheet's corners lie in it (0..1).

    Parameters
    ----------
    sheet
        the flat sheet as the bytes of a picture
    seed
        of all that chance decides
    slant
        how far the corners are off a rectangle, in shares of the picture
    size_px
        width and height of the photo
    upside_down
        whether the phone was held the other way round and says so in the file
    blur_px
        how soft it is, in pixels of the photo
    cast
        factors of red, green and blue
    shift
        how far the sheet lies out of the middle, in shares of the picture

    Returns
    -------
    JPEG bytes without any resolution, and the sheet's four corners in shares (0..1) of the photo.
    """
    chance = np.random.default_rng(seed)
    picture = np.asarray(Image.open(io.BytesIO(sheet)).convert("RGB"), np.float32) / 255
    height, width = picture.shape[:2]
    rows, cols = size_px
    scale = 0.76 * min(cols / width, rows / height)
    half = np.array([width, height]) * scale / 2
    middle = np.array([cols, rows]) * (np.array(shift) + 0.5)
    corners = middle + half * np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)])
    corners += chance.uniform(-slant, slant, (4, 2)) * min(cols, rows)
    source = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    matrix = cv2.getPerspectiveTransform(source, corners.astype(np.float32))
    table = np.array(TABLE_LAB_RGB, np.float32) * (1 + 0.05 * chance.normal(0, 1, (rows, cols, 1)).astype(np.float32))
    seen = cv2.warpPerspective(picture, matrix, (cols, rows), flags=cv2.INTER_AREA)
    cover = cv2.warpPerspective(np.ones((height, width), np.float32), matrix, (cols, rows))[..., None]
    photo = seen * cover + table * (1 - cover)
    y, x = np.mgrid[0:rows, 0:cols].astype(np.float32)
    fall = 1 - 0.32 * ((x / cols - 0.3) ** 2 + (y / rows - 0.2) ** 2)
    photo *= fall[..., None] * np.array(cast, np.float32)
    photo = cv2.GaussianBlur(photo, (0, 0), blur_px) + chance.normal(0, 0.008, photo.shape).astype(np.float32)
    pixels = (np.clip(photo, 0, 1) * 255 + 0.5).astype(np.uint8)
    image = Image.fromarray(pixels)
    exif = Image.Exif()
    if upside_down:
        image, exif[0x0112] = image.rotate(180), 3  # the orientation tag of EXIF: turned by half
    out = io.BytesIO()
    image.save(out, "JPEG", quality=90, exif=exif)
    return out.getvalue(), [(float(px / cols), float(py / rows)) for px, py in corners]
