"""The simulated camera at home: photographs a finished card on a table, in whatever light there is."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from paleta.devices._noise import slow_noise

MP12 = (3000, 4000)
SRGB_GAMMA = 2.2


@dataclass(frozen=True, slots=True, kw_only=True)
class HomeLight:
    """What the light, the lens and the paper do to a photo of a card.

    slant, turn_deg  how askew it is held: shares of the picture, and a turn. fills: of the picture.
    cast      factors of red, green and blue; mixed: how far a second, bluer light takes over towards one side.
    fall      share of light lost from one side to the other; vignette: in the corners. shadow: share of light that a
              hand or phone takes over a part of the card, with a soft edge.
    curl_mm   how far the paper's middle stands off the table; lens: radial distortion. glare: bright spots.
    tone, saturation  what the phone makes of it; blur_px, noise, quality (of JPEG).
    """

    slant: float = 0.04
    turn_deg: float = 4.0
    fills: float = 0.76
    cast: tuple[float, float, float] = (1.02, 1.0, 0.96)
    mixed: float = 0.0
    fall: float = 0.1
    vignette: float = 0.05
    shadow: float = 0.0
    curl_mm: float = 0.0
    lens: float = 0.0
    glare: int = 0
    tone: float = 1.0
    saturation: float = 1.0
    blur_px: float = 0.8
    noise: float = 0.006
    quality: int = 92
    size_px: tuple[int, int] = (2250, 3000)
    upside_down: bool = False


HOME_LIGHTS = {
    "easy": HomeLight(),
    "medium": HomeLight(slant=0.06, turn_deg=8, cast=(1.08, 1.0, 0.84), mixed=0.06, fall=0.25, vignette=0.12,
                        shadow=0.12, curl_mm=1.5, lens=0.02, tone=1.04, saturation=1.05, blur_px=1.0, noise=0.01,
                        quality=84),
    "hard": HomeLight(slant=0.09, turn_deg=14, fills=0.66, cast=(1.16, 1.0, 0.7), mixed=0.14, fall=0.42, vignette=0.22,
                      shadow=0.25, curl_mm=3.0, lens=0.05, glare=3, tone=1.08, saturation=1.1, blur_px=1.6, noise=0.018,
                      quality=70),
}  # fmt: skip
"""From memory of what phones take at a kitchen table."""


def photograph_card(
    card: NDArray[np.float32], home: HomeLight = HOME_LIGHTS["easy"], *, px_per_mm: float, seed: int = 1
) -> tuple[bytes, NDArray[np.float64]]:
    """JPEG bytes of a photo of `card` (H x W x 3 sRGB), and where its corners lie in it (4 x 2, x and y in 0..1). The
    same for the same seed.

    Parameters
    ----------
    card
        H x W x 3 sRGB, 0..1.
    home
        The light it is photographed in.
    px_per_mm
        Of the card.
    seed
        The same seed gives the same photo.
    """
    chance = np.random.default_rng([23, seed])
    home = _varied(home, chance)
    height, width = card.shape[:2]
    rows, cols = home.size_px if (height > width) == (home.size_px[0] > home.size_px[1]) else home.size_px[::-1]
    corners = _corners(home, (height, width), (rows, cols), chance)
    source = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    to_card = cv2.getPerspectiveTransform(corners.astype(np.float32), source)
    x, y = np.meshgrid(np.arange(cols, dtype=np.float32), np.arange(rows, dtype=np.float32))
    places = cv2.perspectiveTransform(_through_lens(np.stack([x, y], axis=-1), home.lens), to_card)
    places += _curl(places, (height, width), home.curl_mm * px_per_mm, chance)
    scale = width / max(float(np.hypot(*(corners[1] - corners[0]))), 1)
    soft = cv2.GaussianBlur(card, (0, 0), 0.45 * scale) if scale > 1.2 else card
    seen = cv2.remap(soft, places, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    inside = ((places >= 0) & (places < (width, height))).all(axis=-1)
    cover = cv2.GaussianBlur(inside.astype(np.float32), (0, 0), 0.7)[..., None]
    table = np.array(chance.uniform(0.16, 0.42, 3) * [1, 0.92, 0.84], np.float32)
    table = table * (1 + 0.08 * slow_noise((rows, cols), 40, chance))[..., None]
    light = _light(home, (x / cols).astype(np.float32), (y / rows).astype(np.float32), chance)
    linear = np.clip(seen * cover + table * (1 - cover), 0, 1) ** SRGB_GAMMA * light
    linear = _glared(linear, home.glare, (height, width), places, chance)
    picture = np.clip(linear, 0, 1) ** (home.tone / SRGB_GAMMA)
    grey = picture.mean(axis=-1, keepdims=True)
    picture = cv2.GaussianBlur(grey + home.saturation * (picture - grey), (0, 0), home.blur_px)
    picture += (home.noise * chance.normal(0, 1, picture.shape)).astype(np.float32)
    image = Image.fromarray((np.clip(picture, 0, 1) * 255 + 0.5).astype(np.uint8))
    exif = Image.Exif()
    if home.upside_down:
        image, exif[0x0112] = image.rotate(180), 3  # the orientation tag of EXIF: turned by half
    out = io.BytesIO()
    image.save(out, "JPEG", quality=home.quality, exif=exif)
    return out.getvalue(), corners / (cols, rows)


def _varied(home: HomeLight, chance: np.random.Generator) -> HomeLight:
    """No two photos are taken alike."""
    part = chance.uniform(0.5, 1.0)
    sign = -1.0 if chance.random() < 0.5 else 1.0
    red, green, blue = (float(1 + (one - 1) * chance.uniform(0.3, 1.0)) for one in home.cast)
    return replace(
        home,
        cast=(red, green, blue),
        turn_deg=float(home.turn_deg * chance.uniform(-1, 1)),
        fall=home.fall * part,
        mixed=home.mixed * float(chance.uniform(0.3, 1)),
        shadow=home.shadow * float(chance.uniform(0.4, 1)),
        curl_mm=home.curl_mm * float(chance.uniform(0.3, 1)),
        lens=home.lens * sign * part,
        tone=float(home.tone ** chance.uniform(-1, 1)),
    )


def _corners(
    home: HomeLight, card: tuple[int, int], photo: tuple[int, int], chance: np.random.Generator
) -> NDArray[np.float64]:
    size = home.fills * min(photo[1] / card[1], photo[0] / card[0])
    half = np.array([card[1], card[0]]) * size / 2
    turn = np.radians(home.turn_deg)
    spin = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    corners = (half * np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)])) @ spin.T
    corners += chance.uniform(-home.slant, home.slant, (4, 2)) * min(photo) / 2
    corners += np.array([photo[1], photo[0]]) * (0.5 + chance.uniform(-0.02, 0.02, 2))
    room = 0.01 * min(photo)
    return np.clip(corners, room, (photo[1] - room, photo[0] - room))


def _through_lens(places: NDArray[np.float32], bend: float) -> NDArray[np.float32]:
    """Where a straight lens would have seen what this one sees at `places`."""
    if not bend:
        return places
    middle = np.array(places.shape[1::-1], np.float32) / 2
    away = (places - middle) / float(np.hypot(*middle))
    return middle + (places - middle) * (1 + bend * (away**2).sum(axis=-1, keepdims=True)).astype(np.float32)


def _curl(
    places: NDArray[np.float32], shape: tuple[int, int], high_px: float, chance: np.random.Generator
) -> NDArray[np.float32]:
    """A sheet that arches is seen shifted where it stands up, the more the more it is seen from the side."""
    if not high_px:
        return np.zeros((1, 1, 2), np.float32)
    turn, side = chance.uniform(0, np.pi), chance.uniform(0.15, 0.4)
    across = (places[..., 0] / shape[1] - 0.5) * np.cos(turn) + (places[..., 1] / shape[0] - 0.5) * np.sin(turn)
    arch = np.clip(1 - (2 * across) ** 2, 0, 1)
    way = chance.uniform(0, 2 * np.pi)
    return (side * high_px * arch[..., None] * np.array([np.cos(way), np.sin(way)])).astype(np.float32)


def _light(
    home: HomeLight, x: NDArray[np.float32], y: NDArray[np.float32], chance: np.random.Generator
) -> NDArray[np.float32]:
    turn, other = (float(one) for one in chance.uniform(0, 2 * np.pi, 2))
    # Plain floats throughout: one of NumPy's own would make all of the photo twice as wide.
    along = math.cos(turn) * (x - 0.5) + math.sin(turn) * (y - 0.5) + 0.5
    light = 1 - home.fall * np.clip(along, 0, 1.2) ** chance.uniform(1, 2)
    light = light * (1 - home.vignette * 2 * ((x - 0.5) ** 2 + (y - 0.5) ** 2))
    if home.shadow:
        way, at, soft = chance.uniform(0, 2 * np.pi), chance.uniform(0.15, 0.4), chance.uniform(0.03, 0.09)
        bow = 0.25 * np.sin(3 * (x * math.sin(way) - y * math.cos(way)) + chance.uniform(0, 6))
        edge = math.cos(way) * (x - 0.5) + math.sin(way) * (y - 0.5) + 0.15 * bow - (0.5 - at)
        light = light * (1 - home.shadow / (1 + np.exp(-edge / soft)))
    mix = np.clip(0.5 + math.cos(other) * (x - 0.5) + math.sin(other) * (y - 0.5), 0, 1)[..., None]
    second = np.array([1 - home.mixed, 1, 1 + home.mixed], np.float32)
    cast = (0.93 * np.array(home.cast) / max(home.cast)).astype(np.float32)
    return np.asarray(light[..., None] * (cast * (1 + mix * (second - 1))), np.float32)


def _glared(
    linear: NDArray[np.float32], spots: int, card: tuple[int, int], places: NDArray[np.float32],
    chance: np.random.Generator,
) -> NDArray[np.float32]:  # fmt: skip
    for _ in range(spots):
        at = chance.uniform(0.1, 0.9, 2) * card[::-1]
        wide = chance.uniform(0.008, 0.025) * max(card)
        away = ((places - at.astype(np.float32)) ** 2).sum(axis=-1) / wide**2
        linear = linear + (0.6 * np.exp(-away))[..., None].astype(np.float32)
    return linear
