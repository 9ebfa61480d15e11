"""Freeing a photo from the colour of its light, its fall-off and mild shadows, without explaining faults away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solve
from scipy.sparse import block_diag, coo_array, csr_array, diags_array, hstack, vstack

from paleta.colour import Lab, lab_to_srgb
from paleta.photo_check._cells import Cells, log_light, on_paper
from paleta.photo_check._match import bending, spread, tilting
from paleta.photo_check._phone import END, Phone

FIELD_MM = 6.0
HAND = 0.035
"""Spread of the hand in the logarithm of light: about 1 CIEDE2000."""
NOISE = 0.025
"""Spread of what is measured of a cell: more than the photo's grain, for no field follows its light quite."""
STIFF, MIXED_STIFF, LIFT = 10_000.0, 60_000.0, 1e-3
TILT, MIXED_TILT = 4.0, 200.0
"""What it costs the light to bend, its colour to bend, and the field to be there at all; and for light and its colour
to fall off over the card: half of the light, or a tenth of a channel, is what a home gives."""
MEAN = 1e5
"""What it costs the light, and its colour, to be off in the mean: that is the phone's gains' to say, and two that say
the same leave the fit without an answer."""
AGREES = 4.0
"""Within so many of the hand's spreads a cell is as planned."""
FAR = 2.0
"""Zones farther off than so many of the hand's spreads hold the field back no more (Cauchy's weights, [Huber2009])."""
PASSES, LET_GO = 10, 1
LOCKED, LOCKED_PASSES = 1e4, 4
"""So much more is what the phone did held near nothing where nothing tells of it, and its curve and mixing for so many
passes: first it must be known which zones are off, or their faults would be taken for the phone's."""
PATCH_TRUST = 4.0
LEAST_PAPER = 0.03
"""With less bare paper than this share of what is seen, and no grey beside it, nothing says what the phone did to
contrast and colours, and it is taken to have done nothing."""


@dataclass(frozen=True, slots=True)
class GreyPatch:
    """A printed grey in the margin: where its middle lies, in mm of the impression (x, y; may lie outside of it), its
    side in mm and its colour."""

    x_mm: float
    y_mm: float
    side_mm: float
    lab: Lab


@dataclass(frozen=True, eq=False)
class Corrected:
    """What is left of the photo once its light is taken out.

    card    N x 3: the logarithm of the light of each cell under the plan's own light.
    field   rows x cols x 3: the logarithm of the light, every FIELD_MM from `low_mm` (x, y); phone: what it made of it.
    zones   Z x 2 (region, zone): those that are coloured. came Z x 3: the same of each as a whole, doubt Z: the spread
            that measuring leaves of it.
    """

    card: NDArray[np.float64]
    field: NDArray[np.float64]
    low_mm: NDArray[np.float64]
    phone: Phone
    zones: NDArray[np.int32]
    came: NDArray[np.float64]
    doubt: NDArray[np.float64]

    def agreeing(self, cells: Cells) -> float:
        """Share of the pixels of `cells` that are coloured, or were taken to be paper, as their plan says."""
        off = np.sqrt(((self.card - cells.plan) ** 2).mean(axis=1))
        return float(np.average(off < AGREES * HAND, weights=cells.pixels))

    def whole(self, laid: NDArray[np.float32], px_per_mm: float) -> NDArray[np.float32]:
        """h x w x 3: the logarithm of the light of a whole photo `laid` on the plan, its own light taken out."""
        rows, cols = (np.arange(size, dtype=np.float32) / px_per_mm for size in laid.shape[:2])
        x, y = np.meshgrid((cols - self.low_mm[0]) / FIELD_MM, (rows - self.low_mm[1]) / FIELD_MM)
        lit = cv2.remap(self.field.astype(np.float32), x.astype(np.float32), y.astype(np.float32), cv2.INTER_LINEAR)
        log = self.phone.undone(log_light(laid).reshape(-1, 3).astype(np.float64), lit.reshape(-1, 3))
        return np.asarray(log.reshape(laid.shape), np.float32)


def correct_light(
    cells: Cells,
    patches: Sequence[GreyPatch] = (),
    seen_patches: NDArray[np.float32] | None = None,
    *,
    plain_phone: bool = False,
) -> Corrected:
    """Part what was seen into light and hand.

    The light of the plan falls off over the card as a smooth field says, whose colour bends far less; the phone makes
    of it what it does (a gain per channel, contrast, colourfulness); and every zone is off: a little for most (the
    hand), much for a few (faults), not at all for bare paper. All of it is one robust least-squares fit. Printed greys
    (`seen_patches` P x 3 sRGB) join as paper does.

    Parameters
    ----------
    cells
        what the photo shows on each zone
    patches
        greys printed beside the picture, if there are any
    seen_patches
        sRGB of each in the photo
    plain_phone
        whether the phone is taken to have done nothing to contrast and colours, since nothing here would tell

    Raises
    ------
    PhotoUnfit
        If no light explains what was seen.
    """
    paper = on_paper(cells)
    seen, plan, at, weight = _with_patches(cells, patches, seen_patches)
    count = len(seen)
    codes = cells.region.astype(np.int64) * 256 + cells.zone
    names, zone_of = np.unique(codes[~paper], return_inverse=True)
    low = np.minimum(at.min(axis=0, initial=0), 0)
    cols, rows = (int(side) + 2 for side in np.ceil((at.max(axis=0, initial=1) - low) / FIELD_MM))
    places = spread(np.clip((at - low) / FIELD_MM, 0, None), rows, cols)
    # Unknown: what the phone did (Phone), the field of light, fields of red and blue against green; and, apart from
    # these, what every zone is off.
    coarser = _coarser(rows, cols)
    tinted = places @ coarser
    nothing = csr_array(tinted.shape)
    fields = vstack(
        [hstack([places, *(tinted if channel == one else nothing for one in (0, 2))]) for channel in range(3)],
        format="csr",
    )
    of_zones = block_diag([_members(np.flatnonzero(~paper), zone_of, count, len(names))] * 3, format="csr")
    phone = Phone.plain()
    bound = plain_phone or (float(paper.mean()) < LEAST_PAPER and not patches)
    trust = np.tile(weight / NOISE, 3)
    bend = bending(rows, cols)
    still = LIFT * diags_array(np.ones(rows * cols))
    steps = tilting(rows, cols)
    mean = csr_array(np.full((rows * cols, rows * cols), MEAN / (rows * cols) ** 2))
    tints = coarser.T @ (MIXED_STIFF * bend + MIXED_TILT * steps + 30 * still + mean) @ coarser
    held = block_diag([Phone.held(), STIFF * bend + TILT * steps + still + mean, tints, tints], format="csr").toarray()
    # At first every zone may be off by anything, so that no fault is taken for light or for a cell gone wrong.
    hand, doubtful = np.full(len(names), 0.02), np.ones(3 * count)
    lit = np.zeros_like(seen)
    for number in range(PASSES):
        locked = slice(3, END) if bound else slice(4, END - 1) if number < LOCKED_PASSES else slice(0, 0)
        held[:END, :END] = Phone.held()
        held[locked, locked] *= LOCKED
        expected, columns, felt = phone.seen_as(plan, lit)
        known = (seen - expected).T.ravel() + columns @ phone.values + felt.T.ravel() * lit.T.ravel()
        of_light = hstack([csr_array(columns), diags_array(felt.T.ravel()) @ fields], format="csr")
        # Zones share no cells, so their part of the equations is a diagonal and is taken out first (Schur complement).
        weighted = diags_array(trust**2 * doubtful)
        light_part, zone_part = of_light.T @ weighted, of_zones.T @ weighted
        own = zone_part.multiply(of_zones.T).sum(axis=1) + np.tile(hand / HAND**2, 3)
        mixed = (light_part @ of_zones).toarray()
        whole = (light_part @ of_light).toarray() + held - (mixed / own) @ mixed.T
        solved = solve(whole, light_part @ known - mixed @ ((zone_part @ known) / own), assume_a="pos")
        apart = (zone_part @ known - mixed.T @ solved) / own
        phone, lit = Phone(solved[:END]).believed(), (fields @ solved[END:]).reshape(3, -1).T
        off = apart.reshape(3, -1).T
        far = np.sqrt((off**2).mean(axis=1)) / (FAR * HAND)
        # Huber's weights first, which have one answer wherever one begins, then Cauchy's, which let go of faults.
        hand = 1 / np.maximum(far, 1) if number < PASSES - LET_GO else 1 / (1 + far**2)
        left = (known - of_light @ solved - of_zones @ apart).reshape(3, -1)
        usual, doubtful = _doubtful(left)
    card = phone.undone(seen, lit)[: len(cells.region)]
    pixels = cells.pixels[~paper]
    came = np.zeros((len(names), 3))
    np.add.at(came, zone_of, card[~paper] * pixels[:, None])
    came /= np.bincount(zone_of, weights=pixels, minlength=len(names))[:, None]
    size = np.bincount(zone_of, weights=np.minimum(pixels, 200) / 200, minlength=len(names))
    return Corrected(
        card=card,
        field=_field(solved[END:], coarser, rows, cols),
        low_mm=low,
        phone=phone,
        zones=np.stack([names // 256, names % 256], axis=1).astype(np.int32),
        came=came,
        doubt=usual / np.sqrt(np.maximum(size, 1e-3)),
    )


def _with_patches(
    cells: Cells, patches: Sequence[GreyPatch], seen_patches: NDArray[np.float32] | None
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """What was seen and planned of cells and printed greys, where, and what each weighs."""
    weight = np.sqrt(np.minimum(cells.pixels, 200) / 200)
    if not patches or seen_patches is None:
        return cells.seen, cells.plan, cells.at, weight
    known = ~np.isnan(seen_patches).any(axis=1)
    greys = np.array([lab_to_srgb(np.array(one.lab)) for one in patches], np.float32)
    return (
        np.concatenate([cells.seen, log_light(seen_patches[known])]),
        np.concatenate([cells.plan, log_light(greys[known])]),
        np.concatenate([cells.at, np.array([(one.x_mm, one.y_mm) for one in patches])[known]]),
        np.concatenate([weight, np.full(int(known.sum()), PATCH_TRUST)]),
    )


def _doubtful(left: NDArray[np.float64]) -> tuple[float, NDArray[np.float64]]:
    """The usual spread of what is left of the cells (3 x N), and how far each is believed, 3N: Cauchy's weights."""
    usual = max(1.4826 * float(np.median(np.abs(left))), NOISE / 2)
    return usual, np.tile(1 / (1 + (left**2).mean(axis=0) / (3 * usual) ** 2), 3)


def _coarser(rows: int, cols: int) -> csr_array:
    """rows * cols x fewer: the nodes of a field from those of one that has every second of them, across and down; the
    colour of light changes more slowly than its strength."""
    y, x = np.indices((rows, cols)).reshape(2, -1) / 2
    return spread(np.stack([x, y], axis=1), rows // 2 + 1, cols // 2 + 1)


def _field(solved: NDArray[np.float64], coarser: csr_array, rows: int, cols: int) -> NDArray[np.float64]:
    """rows x cols x 3 from what was solved: light, and red and blue against green."""
    light, tints = solved[: rows * cols], solved[rows * cols :].reshape(2, -1)
    red, blue = (coarser @ one for one in tints)
    return np.stack([light + red, light, light + blue], axis=-1).reshape(rows, cols, 3)


def _members(rows: NDArray[np.int64], columns: NDArray[np.int64], height: int, width: int) -> csr_array:
    return csr_array(coo_array((np.ones(len(rows)), (rows, columns)), shape=(height, width)))
