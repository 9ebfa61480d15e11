"""Laying one picture of a stamped image on another of the same stamp."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.impression import MM_PER_INCH, Impression, find_sheet, read
from paleta.photo_check._lines import lines_of, pale_lines
from paleta.photo_check._match import Matched, field_through, match, trusted
from paleta.photo_check._pose import (
    Matrix,
    SoftPicture,
    believable,
    by_corners,
    by_features,
    moved,
    resized,
    sampled,
)

UNMEASURED_DPI = 300.0
"""What a photo counts as; its scale follows from the stamp."""
WORK_PX_MM, LOOK_PX_MM = 6.0, 3.4
"""Resolution at which pictures are laid on each other, and at which the first look is taken."""
SEEN_PX = 1000
"""Longer side of the photo for the first look."""
SAME, FAR_OFF = 0.84, 0.3
"""Likeness of the lines from which it is the same stamp, and below which nothing like it is in the picture. The same
stamp again gave 0.96 and more, others of like design up to 0.7, of another 0.4 (tools/photo_check)."""
TRUSTED = 0.45
ROUNDS = ((16.0, 4.0), (11.0, 1.8))
"""Size of a patch and how far it is looked for, in mm, while the view as a whole is put right."""
BENT = ((9.0, 1.6, 4.5), (6.0, 0.9, 3.0), (4.5, 0.5, 2.2))
"""The same, and the step from patch to patch, while paper that curls and rubber that bends are followed."""
PLANE_PX = 4.0
WHOLE = ((0, 0), (1, 0), (1, 1), (0, 1))


@dataclass(frozen=True, slots=True)
class NotTheSameStamp:
    """Why a picture was not taken. code: nothing (no drawing like it), cut (too little of it), other (another stamp).
    likeness 0..1 of the lines at the best place that was found."""

    code: str
    reason: str
    likeness: float = 0.0


@dataclass(frozen=True, eq=False)
class Registration:
    """Where every point of an impression lies in a photo.

    matrix    3 x 3, impression pixels (x, y, 1) to photo pixels, as a plane sheet is seen.
    bend      h x w x 2 float32: on every `step`-th pixel of the impression (across, down), by how many of its pixels
              the point lies elsewhere than that: paper curls and rubber gives.
    shape     H x W of the impression; dpi its resolution.
    likeness  0..1 of the lines, laid on each other. share of the impression that lies within the photo.
    """

    matrix: Matrix
    bend: NDArray[np.float32] = field(repr=False)
    step: tuple[float, float]
    shape: tuple[int, int]
    dpi: float
    likeness: float
    share: float

    @property
    def turned_deg(self) -> float:
        """How far the photo is turned clockwise, -180 to 180."""
        height, width = self.shape
        ends = moved(self.matrix, np.array([(0.25 * width, height / 2), (0.75 * width, height / 2)]))
        return float(np.degrees(np.arctan2(*(ends[1] - ends[0])[::-1])))

    def to_photo(self, points: NDArray[np.float64]) -> NDArray[np.float64]:
        """N x 2 (x, y) pixels of the impression to pixels of the photo."""
        at = np.asarray(points, float)
        return moved(self.matrix, at + sampled(self.bend, (at + 0.5) / np.array(self.step) - 0.5))

    def grid(self, step: int = 1) -> NDArray[np.float32]:
        """h x w x 2 float32: where every `step`-th pixel of the impression lies in the photo (x, y)."""
        rows, cols = (-(-size // step) for size in self.shape)
        x, y = np.meshgrid(np.arange(cols, dtype=np.float32) * step, np.arange(rows, dtype=np.float32) * step)
        over, down = (
            (one + 0.5) / np.float32(each) - np.float32(0.5) for one, each in zip((x, y), self.step, strict=True)
        )
        off = cv2.remap(self.bend, over, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        off[..., 0] += x
        off[..., 1] += y
        return cv2.perspectiveTransform(off, self.matrix)

    def laid(self, pixels: NDArray[np.float32], step: int = 1) -> NDArray[np.float32]:
        """The photo's `pixels` on every `step`-th pixel of the impression, h x w x 3; NaN outside the photo."""
        return SoftPicture(pixels).at(self.grid(step), beyond=np.nan)


def register(
    photo: bytes | Impression, impression: Impression, *, corners: NDArray[np.float64] | None = None
) -> Registration | NotTheSameStamp:
    """Find the stamped image of `impression` in `photo`.

    Parameters
    ----------
    photo : bytes or Impression
        A photo or scan, whichever way up; its size on paper need not be known.
    impression : Impression
        The stamped image as it was read once.
    corners : 4 x 2, optional
        Of the sheet in the photo as (x, y) 0..1, top left first; found where they are not said.

    Raises
    ------
    NotAnImage, ImageTooLarge
        If the photo cannot be read whole.
    """
    return Template.of(impression).found_in(photo_read(photo), corners)


def photo_read(photo: bytes | Impression) -> Impression:
    return photo if isinstance(photo, Impression) else read(photo, dpi=UNMEASURED_DPI)


@dataclass(frozen=True, eq=False)
class Template:
    """The lines of a stamped image as they are looked for: at WORK_PX_MM. paler: than their paper."""

    lines: NDArray[np.float32]
    shape: tuple[int, int]
    dpi: float
    paler: bool

    @property
    def scale(self) -> tuple[float, float]:
        """Pixels of `lines` to one of the impression, across and down; sizes are whole, so they differ a little."""
        return self.lines.shape[1] / self.shape[1], self.lines.shape[0] / self.shape[0]

    @classmethod
    def of(cls, impression: Impression) -> Template:
        paler = pale_lines(impression.pixels, impression.px_per_mm)
        lines = lines_of(impression.pixels, impression.px_per_mm, paler=paler)
        return cls.drawn(lines, impression.dpi, paler)

    @classmethod
    def drawn(cls, lines: NDArray[np.float32], dpi: float, paler: bool) -> Template:
        """From lines H x W 0..1 that are known already."""
        scale = WORK_PX_MM * MM_PER_INCH / dpi
        size = tuple(max(8, round(side * scale)) for side in lines.shape[::-1])
        way = cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
        return cls(cv2.resize(lines, size, interpolation=way), lines.shape[:2], dpi, paler)

    def sharpness(self, laid: NDArray[np.float32]) -> float:
        """0..1: how much line a photo `laid` on the impression (any size) shows where lines are drawn."""
        size = self.lines.shape[::-1]
        seen = lines_of(cv2.resize(np.nan_to_num(laid, nan=1.0), size), WORK_PX_MM, paler=self.paler)
        return float(seen[self.lines > 0.6].mean()) if (self.lines > 0.6).any() else 0.0

    def found_in(
        self, photo: Impression, corners: NDArray[np.float64] | None, same: float = SAME
    ) -> Registration | NotTheSameStamp:
        """Where this lies in a photo; `same`: the least likeness of the lines."""
        best: tuple[float, Matrix] = (0.0, np.eye(3))
        picture = SoftPicture(photo.pixels)
        for guess in self._guesses(photo, corners):
            likeness, matrix = self._put_right(picture, guess)
            if likeness > best[0]:
                best = likeness, matrix
            if likeness > same:
                break
        if best[0] < FAR_OFF / 2:
            return NotTheSameStamp("nothing", "No drawing like this one was found in the picture.", best[0])
        found = self._followed(photo, picture, best[1])
        if found.likeness >= same and found.share >= 0.5:
            return found
        return self._refused(found)

    def _refused(self, found: Registration) -> NotTheSameStamp:
        if found.share < 0.5 and found.likeness >= FAR_OFF:
            reason = f"Only {found.share:.0%} of the stamped image is in the picture. Take all of it in."
            return NotTheSameStamp("cut", reason, found.likeness)
        if found.likeness < FAR_OFF:
            return NotTheSameStamp("nothing", "No drawing like this one was found in the picture.", found.likeness)
        reason = "This looks like another stamp: too many of its lines do not lie where they should."
        return NotTheSameStamp("other", reason, found.likeness)

    def _guesses(self, photo: Impression, corners: NDArray[np.float64] | None) -> Iterator[Matrix]:
        """Ways the impression may lie in the photo, likeliest first; impression's work pixels to photo's pixels."""
        height, width = photo.pixels.shape[:2]
        small_by = min(1.0, SEEN_PX / max(height, width))
        small = cv2.resize(photo.pixels, None, fx=small_by, fy=small_by, interpolation=cv2.INTER_AREA)
        # What a line is, is told in mm: the drawing is taken to fill two thirds of the picture.
        guessed_px_mm = 0.67 * max(small.shape[:2]) / (max(self.lines.shape) / WORK_PX_MM)
        seen = lines_of(small, guessed_px_mm, paler=self.paler)
        own_by = LOOK_PX_MM / WORK_PX_MM
        own = cv2.resize(self.lines, None, fx=own_by, fy=own_by, interpolation=cv2.INTER_AREA)
        found = by_features(own, seen)
        if found is not None:
            yield resized(1 / small_by) @ found @ resized(own_by)
        sheet = corners if corners is not None else find_sheet(photo)
        quad = np.asarray(WHOLE if sheet is None else sheet, float)
        yield from by_corners(quad * (width, height), self.lines.shape)

    def _put_right(self, picture: SoftPicture, matrix: Matrix) -> tuple[float, Matrix]:
        """The view as a plane sheet, corrected by patches that were found; and how alike the lines are then."""
        likeness = 0.0
        for patch_mm, reach_mm in ROUNDS:
            seen = self._seen(picture, matrix)
            found = self._matched(seen, patch_mm, reach_mm, patch_mm / 2)
            likeness = found.likeness
            good = trusted(found, TRUSTED, WORK_PX_MM * reach_mm / 2)
            if good.sum() < 6:
                break
            here, there = found.at[good], moved(matrix, found.at[good] + found.off[good])
            scale = float(np.median(np.hypot(*(moved(matrix, here + np.array((1.0, 0.0))) - moved(matrix, here)).T)))
            better, _ = cv2.findHomography(here, there, cv2.RANSAC, PLANE_PX * scale, confidence=0.999)
            if better is None or not believable(better, self.lines.shape):
                break
            matrix = better
        return likeness, matrix

    def _followed(self, photo: Impression, picture: SoftPicture, matrix: Matrix) -> Registration:
        """With the bends of paper and rubber followed."""
        bend = np.zeros((*self.lines.shape, 2), np.float32)
        for patch_mm, reach_mm, step_mm in BENT:
            found = self._matched(self._seen(picture, matrix, bend), patch_mm, reach_mm, step_mm)
            good = trusted(found, TRUSTED, WORK_PX_MM * reach_mm / 2)
            bend += field_through(found, good, self.lines.shape, step_px=round(WORK_PX_MM * step_mm))
        seen = self._seen(picture, matrix, bend)
        found = self._matched(seen, 6.0, 0.35, 6.0)
        size = photo.pixels.shape[1::-1]
        # What lies outside the photo says nothing against it.
        likeness = found.likeness_of(_within(moved(matrix, found.at), size))
        across, down = self.scale
        inside = _within(moved(matrix, np.stack(np.nonzero(self.lines > 0.5)[::-1], axis=1)[::7].astype(float)), size)
        return Registration(
            matrix=matrix @ resized(across, down),
            bend=(bend / np.array((across, down))).astype(np.float32),
            step=(1 / across, 1 / down),
            shape=self.shape,
            dpi=self.dpi,
            likeness=likeness,
            share=float(np.mean(inside)) if len(inside) else 0.0,
        )

    def _matched(self, seen: NDArray[np.float32], patch_mm: float, reach_mm: float, step_mm: float) -> Matched:
        patch, reach, step = (max(2, round(WORK_PX_MM * size)) for size in (patch_mm, reach_mm, step_mm))
        return match(self.lines, seen, patch_px=patch, reach_px=reach, step_px=step)

    def _seen(
        self, picture: SoftPicture, matrix: Matrix, bend: NDArray[np.float32] | None = None
    ) -> NDArray[np.float32]:
        """The photo's lines where the template's should lie."""
        height, width = self.lines.shape
        x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
        places = np.stack([x, y], axis=-1) if bend is None else np.stack([x + bend[..., 0], y + bend[..., 1]], axis=-1)
        laid = picture.at(cv2.perspectiveTransform(places, matrix))
        return lines_of(laid, WORK_PX_MM, paler=self.paler)


def _within(places: NDArray[np.float64], size: tuple[int, ...]) -> NDArray[np.bool_]:
    """N: which places (N x 2) lie in a picture of that size; both x first."""
    return np.all((places >= 0) & (places < size), axis=1)
