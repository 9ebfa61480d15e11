"""Photos of cards taken at another home: written apart from `paleta.devices`, so that nothing is fitted to one alone.

The card lies before a pinhole camera with a wide-angle lens, under one lamp at a distance and the light of the room;
the phone guesses the white, sharpens, bends the tones and makes colours livelier. From memory of what phones do.
"""

from __future__ import annotations

import io

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps

ODD = (
    "soft glare", "burnt spot", "hard shadow", "blur", "overexposed", "tone-mapped", "black-and-white", "mirrored",
)  # fmt: skip
"""What can be the matter with a photo."""
Pixels = NDArray[np.float32]
FOCAL = 0.8
"""Focal length of the phone in shares of the photo's longer side."""


def other_photo(
    card: Pixels, *, px_per_mm: float, seed: int, odd: str = "", size_px: tuple[int, int] = (2400, 1800)
) -> bytes:
    """JPEG bytes of a photo of `card` (H x W x 3 sRGB), with one of ODD the matter with it, or nothing.

    Parameters
    ----------
    card
        H x W x 3 sRGB 0..1
    px_per_mm
        of the card
    seed
        the same seed, the same photo
    odd
        one of ODD, or nothing
    size_px
        rows and columns of the photo
    """
    chance = np.random.default_rng([97, seed])
    rows, cols = size_px
    place = _places(card.shape[:2], px_per_mm, size_px, chance)
    soft = cv2.GaussianBlur(card, (0, 0), 0.5)
    seen = cv2.remap(soft, place * np.float32(px_per_mm), None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    height, width = (side / px_per_mm for side in card.shape[:2])
    on_card = ((place >= 0) & (place < np.array([width, height]))).all(axis=-1).astype(np.float32)
    cover = cv2.GaussianBlur(on_card, (0, 0), 0.6)[..., None]
    wood = np.array(chance.uniform(0.1, 0.5) * np.array([1.0, 0.85, 0.7]), np.float32)
    linear = np.where(seen <= 0.04045, seen / 12.92, ((seen + 0.055) / 1.055) ** 2.4)
    linear = (linear * cover + wood * (1 - cover)) * _lit(place, (height, width), chance)
    x, y = np.meshgrid(np.linspace(0, 1, cols, dtype=np.float32), np.linspace(0, 1, rows, dtype=np.float32))
    linear = _odd_light(linear, odd, x, y, chance) + np.float32(chance.uniform(0.002, 0.008))
    linear *= np.float32((2.6 if odd == "overexposed" else chance.uniform(0.8, 0.95)) / np.percentile(linear, 98))
    spread = np.sqrt(np.maximum(linear, 0) * 2e-4 + 4e-6)
    linear = np.clip(linear + spread * chance.standard_normal(linear.shape, np.float32), 0, 1)
    return _developed(linear.astype(np.float32), odd, chance)


def _places(
    shape: tuple[int, ...], px_per_mm: float, size_px: tuple[int, int], chance: np.random.Generator
) -> NDArray[np.float32]:
    """rows x cols x 2: where on the card, in mm, each pixel of the photo looks."""
    rows, cols = size_px
    focal = FOCAL * max(size_px)
    camera = np.array([[focal, 0, cols / 2], [0, focal, rows / 2], [0, 0, 1]])
    bend = np.array([chance.uniform(-0.05, 0.02), 0, 0, 0, 0])
    x, y = np.meshgrid(np.arange(cols, dtype=np.float32), np.arange(rows, dtype=np.float32))
    # The lens bends slowly: a coarse grid of rays tells the rest.
    coarse = np.stack([x[::16, ::16], y[::16, ::16]], axis=-1)
    rays = cv2.undistortPoints(coarse.reshape(-1, 1, 2), camera, bend).reshape(*coarse.shape)
    rays = cv2.resize(rays.astype(np.float32), (cols, rows), interpolation=cv2.INTER_LINEAR)
    tilt = np.radians(chance.uniform(-12, 12, 2))
    turn = cv2.Rodrigues(np.array([tilt[0], tilt[1], np.radians(chance.uniform(-9, 9))]))[0]
    height, width = (side / px_per_mm for side in shape[:2])
    far = max(width, height * cols / rows) * focal / cols / chance.uniform(0.72, 0.86)
    middle = np.array([0, 0, far])
    direction = np.concatenate([rays, np.ones((rows, cols, 1), np.float32)], axis=-1) @ turn
    start = -(middle @ turn)
    reach = -start[2] / direction[..., 2]
    on_plane = start[:2] + reach[..., None] * direction[..., :2]
    return (on_plane + np.array([width, height]) / 2).astype(np.float32)


def _lit(place: Pixels, size_mm: tuple[float, float], chance: np.random.Generator) -> Pixels:
    """A lamp whose light falls with the square of its distance and with its slant, and the room's bluer light."""
    height, width = size_mm
    at = np.array([chance.uniform(-0.8, 1.8) * width, chance.uniform(-0.8, 0.2) * height])
    high = chance.uniform(250, 500)
    away = ((place - at.astype(np.float32)) ** 2).sum(axis=-1)
    lamp = high**3 / (away + high**2) ** 1.5
    warm = np.array([1.0, chance.uniform(0.78, 0.95), chance.uniform(0.5, 0.85)])
    room = chance.uniform(0.15, 0.6) * np.array([0.9, 1.0, 1.08])
    return (lamp[..., None] * warm + room).astype(np.float32)


def _odd_light(linear: Pixels, odd: str, x: Pixels, y: Pixels, chance: np.random.Generator) -> Pixels:
    """With what lies over the card: light thrown back by its surface, or the shadow of a hand."""
    at = chance.uniform(0.35, 0.65, 2)
    away = (x - at[0]) ** 2 + (y - at[1]) ** 2
    if odd == "soft glare":
        return np.asarray(linear + (0.22 * linear.max() * np.exp(-away / 0.2**2))[..., None], np.float32)
    if odd == "burnt spot":
        return np.asarray(linear + (2.5 * linear.max() * np.exp(-away / 0.09**2))[..., None], np.float32)
    if odd == "hard shadow":
        turn = chance.uniform(0, 2 * np.pi)
        edge = np.cos(turn) * (x - at[0]) + np.sin(turn) * (y - at[1])
        return np.asarray(linear * (0.45 + 0.55 / (1 + np.exp(-edge / 0.004)))[..., None], np.float32)
    return linear


def _developed(linear: Pixels, odd: str, chance: np.random.Generator) -> bytes:
    """What the phone makes of the light and writes."""
    white = np.percentile(linear.reshape(-1, 3)[::17], 90, axis=0)
    linear = np.clip(linear * (white.mean() / white) ** chance.uniform(0.7, 1.0), 0, 1)
    picture = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * np.maximum(linear, 1e-9) ** (1 / 2.4) - 0.055)
    if odd == "tone-mapped":
        around = cv2.GaussianBlur(picture.mean(axis=-1), (0, 0), 60)
        picture = picture * (0.6 / np.maximum(around, 0.1))[..., None] ** 0.6
    strong = chance.uniform(0.0, 0.12)
    picture = np.clip(picture, 0, 1)
    picture = (1 - strong) * picture + strong * (3 * picture**2 - 2 * picture**3)
    grey = picture.mean(axis=-1, keepdims=True)
    picture = (grey + chance.uniform(1.0, 1.12) * (picture - grey)).astype(np.float32)
    picture += np.float32(0.4) * (picture - cv2.GaussianBlur(picture, (0, 0), 1.5))
    if odd == "blur":
        picture = cv2.GaussianBlur(picture, (0, 0), 3.5)
    image = Image.fromarray((np.clip(picture, 0, 1) * 255 + 0.5).astype(np.uint8))
    if odd == "black-and-white":
        image = image.convert("L").convert("RGB")
    if odd == "mirrored":
        image = ImageOps.mirror(image)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=int(chance.integers(78, 93)), subsampling=2)
    return out.getvalue()
