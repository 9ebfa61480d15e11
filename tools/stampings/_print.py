"""Printing a panel on some paper with some faults, and scanning or photographing it under some light."""

from __future__ import annotations

import io
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from tools.stampings._draw import Panel

PAPERS = {
    "white": ((250, 249, 246), 0.0),
    "cream": ((240, 230, 208), 0.0),
    "watercolour": ((246, 244, 238), 0.035),
    "kraft": ((190, 152, 110), 0.07),
    "grey": ((165, 166, 168), 0.03),
}
"""sRGB, and how rough: the spread of its fibres or grain as a share of its light."""
INKS = {"black": (24, 22, 25), "brown": (92, 60, 42), "grey": (120, 120, 124), "tone on tone": (168, 150, 128)}


@dataclass(frozen=True)
class Degree:
    """How badly it was stamped and taken. Shares 0..1; breaks per 10 cm of line."""

    pale: float = 0.0
    grain: float = 0.0
    breaks: float = 0.0
    break_mm: float = 0.0
    dust: int = 0
    smudge: float = 0.0
    light: float = 0.05
    noise: float = 0.006
    quality: int = 95
    papers: tuple[str, ...] = ("white", "cream")
    inks: tuple[str, ...] = ("black",)
    rim: float = 0.0
    """Chance that dark table shows along one or two sides."""
    photo: float = 0.0
    """Chance that it is a phone's photo of the sheet on a table."""


@dataclass(frozen=True)
class Stamping:
    """A file, and where the panel lies in it: `to_picture` takes panel pixels (x, y, 1) to picture pixels."""

    data: bytes
    dpi: float
    to_picture: NDArray[np.float64]
    photo: bool


def stamp(panel: Panel, degree: Degree, seed: int) -> Stamping:
    chance = np.random.default_rng([11, seed])
    ink = panel.drawn.astype(np.float32) / 255
    if degree.breaks:
        ink = _worn(ink, panel, degree, chance)
    ink = _edges(ink, panel.px, chance)
    ink = ink * _pressure(ink.shape, panel.px, degree, chance)
    colour, rough = PAPERS[str(chance.choice(degree.papers))]
    paper = np.asarray(colour, np.float32) / 255 * _fibres(ink.shape, panel.px, rough, chance)[..., None]
    inks = [one for one in degree.inks if np.mean(INKS[one]) < np.mean(colour) - 45]
    tint = np.asarray(INKS[str(chance.choice(inks))], np.float32) / 255
    ink = np.maximum(ink, _dust(ink.shape, panel.px, degree, chance))
    ink = np.maximum(ink, _smudges(ink.shape, panel.px, degree, chance))
    sheet = paper * (1 - ink[..., None]) + tint * np.minimum(paper / paper.max(), 1) * ink[..., None]
    photo = bool(chance.random() < degree.photo)
    if photo:
        picture, matrix = _photographed(sheet, panel.px, chance)
    else:
        picture, matrix = _on_the_glass(sheet, degree, chance)
    picture = picture * _lamp(picture.shape[:2], degree.light * (1.6 if photo else 1.0), chance)[..., None]
    picture = cv2.GaussianBlur(picture, (0, 0), 0.5 + 0.25 * photo)
    picture = picture + chance.normal(0, degree.noise * (1 + photo), picture.shape)
    out = io.BytesIO()
    image = Image.fromarray((np.clip(picture, 0, 1) * 255 + 0.5).astype(np.uint8))
    image.save(out, "JPEG", quality=degree.quality, dpi=(panel.dpi, panel.dpi), subsampling=0)
    return Stamping(out.getvalue(), panel.dpi, matrix, photo)


def _slow(shape: tuple[int, int], reach_px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Smooth noise of unit spread."""
    small = (max(3, round(shape[0] / reach_px) + 2), max(3, round(shape[1] / reach_px) + 2))
    noise = cv2.resize(chance.normal(0, 1, small).astype(np.float32), shape[::-1], interpolation=cv2.INTER_CUBIC)
    return np.asarray((noise - noise.mean()) / max(float(noise.std()), 1e-6), np.float32)


def _worn(ink: NDArray[np.float32], panel: Panel, degree: Degree, chance: np.random.Generator) -> NDArray[np.float32]:
    """Breaks across lines, as a worn or badly mounted stamp leaves them."""
    rows, cols = np.nonzero(ink > 0.6)
    length_mm = len(rows) / panel.px**2 / panel.line_mm
    ink = ink.copy()
    for place in chance.integers(0, len(rows), chance.poisson(degree.breaks * length_mm / 100)):
        wide = chance.uniform(0.4, 1.0) * degree.break_mm
        half = wide / 2 * panel.px
        centre = (int(cols[place]), int(rows[place]))
        cv2.ellipse(ink, centre, (max(1, round(half)), max(1, round(half * chance.uniform(0.9, 1.3)))),
                    chance.uniform(0, 180), 0, 360, 0, -1, cv2.LINE_AA)  # fmt: skip
    return ink


def _edges(ink: NDArray[np.float32], px: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """Ink spreads unevenly into the paper."""
    soft = cv2.GaussianBlur(ink, (0, 0), 0.05 * px)
    return np.clip((soft - 0.5 + 0.10 * _slow(ink.shape, 0.25 * px, chance)) * 2.5 + 0.5, 0, 1)


def _pressure(shape: tuple[int, int], px: float, degree: Degree, chance: np.random.Generator) -> NDArray[np.float32]:
    weak = np.clip(_slow(shape, 18 * px, chance) - 0.6, 0, 1.5) / 1.5
    grain = np.clip(_slow(shape, 0.12 * px, chance) * 0.5 + 0.5, 0, 1)
    return np.asarray(1 - degree.pale * weak - degree.grain * grain * (0.3 + 0.7 * weak), np.float32).clip(0.0, 1)


def _fibres(shape: tuple[int, int], px: float, rough: float, chance: np.random.Generator) -> NDArray[np.float32]:
    if not rough:
        return np.ones(shape, np.float32)
    noise = _slow(shape, 0.3 * px, chance) + 0.6 * _slow(shape, 0.9 * px, chance)
    for _ in range(int(60 * rough / 0.07)):
        x, y, turn, long = *chance.uniform(0, 1, 2), chance.uniform(0, np.pi), chance.uniform(1, 5) * px
        here = np.array([x * shape[1], y * shape[0]])
        step = np.array([np.cos(turn), np.sin(turn)]) * long / 2
        cv2.line(noise, (here - step).astype(int).tolist(), (here + step).astype(int).tolist(),
                 float(chance.normal(0, 2)), max(1, round(0.06 * px)), cv2.LINE_AA)  # fmt: skip
    return np.asarray(np.clip(1 + rough * 0.6 * noise, 0.3, 1.3), np.float32)


def _dust(shape: tuple[int, int], px: float, degree: Degree, chance: np.random.Generator) -> NDArray[np.float32]:
    spots = np.zeros(shape, np.float32)
    for _ in range(degree.dust):
        at = (int(chance.integers(shape[1])), int(chance.integers(shape[0])))
        cv2.circle(spots, at, max(1, round(chance.uniform(0.03, 0.13) * px)), float(chance.uniform(0.4, 1)), -1)
    return spots


def _smudges(shape: tuple[int, int], px: float, degree: Degree, chance: np.random.Generator) -> NDArray[np.float32]:
    if not degree.smudge:
        return np.zeros(shape, np.float32)
    return np.asarray(degree.smudge * np.clip(_slow(shape, 9 * px, chance) - 1.2, 0, 1), np.float32)


def _lamp(shape: tuple[int, int], fall: float, chance: np.random.Generator) -> NDArray[np.float32]:
    """A lamp that falls off towards one side or corner, and the lens's own corners."""
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(np.float32)
    turn = chance.uniform(0, 2 * np.pi)
    along = (np.cos(turn) * (x / shape[1] - 0.5) + np.sin(turn) * (y / shape[0] - 0.5)) + 0.5
    corners = ((x / shape[1] - 0.5) ** 2 + (y / shape[0] - 0.5) ** 2) * 2
    return np.asarray(1 - fall * np.clip(along, 0, 1) ** chance.uniform(1, 2.5) - 0.4 * fall * corners, np.float32)


def _on_the_glass(
    sheet: NDArray[np.float32], degree: Degree, chance: np.random.Generator
) -> tuple[NDArray[np.float32], NDArray[np.float64]]:
    """A flat scan: askew by a little, sometimes with dark table along a side or two."""
    h, w = sheet.shape[:2]
    turn = cv2.getRotationMatrix2D((w / 2, h / 2), chance.uniform(-1.2, 1.2), 1.0)
    rim = np.zeros(4, int)
    if chance.random() < degree.rim:
        for side in chance.choice(4, chance.integers(1, 3), replace=False):
            rim[side] = round(chance.uniform(0.008, 0.02) * max(h, w))
    paper = np.median(sheet, axis=(0, 1)).tolist()
    flat = cv2.warpAffine(sheet, turn, (w, h), flags=cv2.INTER_LINEAR, borderValue=paper)
    dark = (np.array([30, 26, 24]) / 255 * chance.uniform(0.5, 2)).tolist()
    top, right, bottom, left = (int(one) for one in rim)
    framed = cv2.copyMakeBorder(flat, top, bottom, left, right, cv2.BORDER_CONSTANT, value=dark)
    matrix = np.vstack([turn, [0, 0, 1]])
    return framed, np.array([[1, 0, left], [0, 1, top], [0, 0, 1]], float) @ matrix


def _photographed(
    sheet: NDArray[np.float32], px: float, chance: np.random.Generator
) -> tuple[NDArray[np.float32], NDArray[np.float64]]:
    """A phone's photo of the sheet on a table, a little from the side."""
    h, w = sheet.shape[:2]
    edge = 0.09 * max(h, w)
    corners = np.array([(0, 0), (w, 0), (w, h), (0, h)], np.float32)
    seen = (corners + edge + chance.uniform(-0.03, 0.03, (4, 2)) * max(h, w)).astype(np.float32)
    size = (round(w + 2 * edge), round(h + 2 * edge))
    matrix = cv2.getPerspectiveTransform(corners, seen)
    colour = np.array([chance.uniform(0.15, 0.5)] * 3) * chance.uniform(0.8, 1.2, 3)
    table = colour.astype(np.float32) * (1 + 0.06 * _slow(size[::-1], 3 * px, chance))[..., None]
    inside = cv2.warpPerspective(np.ones((h, w), np.float32), matrix, size)
    picture = cv2.warpPerspective(sheet, matrix, size, flags=cv2.INTER_LINEAR)
    return np.where(inside[..., None] > 0.5, picture, table).astype(np.float32), matrix.astype(float)
