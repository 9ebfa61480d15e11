"""Write paleta/media/_spectra.csv: smooth reflectance bases for linear sRGB and the sums that lead back.

Run by hand when the method changes: `python tools/make_spectra.py`. The colour matching functions and the D65
illuminant come from colour-science; the bases are solved here as in [Mallett2019]: three reflectances that are
as smooth as possible, lie within 0..1, add up to one, and show exactly the sRGB primaries under D65.
"""

from __future__ import annotations

import csv
from pathlib import Path

import colour
import numpy as np
from scipy.optimize import LinearConstraint, minimize

SHAPE = colour.SpectralShape(400, 700, 10)


def weights() -> np.ndarray:
    """Bands x 3: a reflectance times this is linear sRGB under D65."""
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(SHAPE).values
    light = colour.SDS_ILLUMINANTS["D65"].copy().align(SHAPE).values
    xyz = cmfs * light[:, None]
    xyz /= xyz[:, 1].sum()
    linear = xyz @ colour.RGB_COLOURSPACES["sRGB"].matrix_XYZ_to_RGB.T
    return linear / linear.sum(axis=0)  # white paper (reflectance 1) is exactly (1, 1, 1)


def bases(to_linear: np.ndarray) -> np.ndarray:
    """Bands x 3 reflectances of the primaries."""
    bands = len(to_linear)
    slope = np.diff(np.eye(bands), axis=0)
    hessian = np.kron(np.eye(3), slope.T @ slope)
    rows, targets = [], []
    for primary in range(3):
        for channel in range(3):
            row = np.zeros((3, bands))
            row[primary] = to_linear[:, channel]
            rows.append(row.ravel())
            targets.append(float(primary == channel))
    for band in range(bands):
        row = np.zeros((3, bands))
        row[:, band] = 1
        rows.append(row.ravel())
        targets.append(1.0)
    # White is a consequence of the sum, so three of the colour rows are redundant.
    keep = [i for i in range(len(rows)) if i not in (6, 7, 8)]
    matrix, target = np.array(rows)[keep], np.array(targets)[keep]
    start = np.full(3 * bands, 1 / 3)
    found = minimize(
        lambda x: x @ hessian @ x,
        start,
        jac=lambda x: 2 * hessian @ x,
        method="trust-constr",
        hess=lambda x: 2 * hessian,
        bounds=[(0, 1)] * (3 * bands),
        constraints=LinearConstraint(matrix, target, target),
        options={"maxiter": 3000, "gtol": 1e-10},
    )
    return found.x.reshape(3, bands).T


def main() -> None:
    to_linear = weights()
    rho = bases(to_linear)
    print("worst round trip", np.abs(rho.T @ to_linear - np.eye(3)).max(), "range", rho.min(), rho.max())
    with (Path(__file__).parents[1] / "paleta/media/_spectra.csv").open("w", newline="") as file:
        out = csv.writer(file)
        out.writerow(["nm", "red", "green", "blue", "to_red", "to_green", "to_blue"])
        for nm, rho_row, weight_row in zip(SHAPE.wavelengths, rho, to_linear, strict=True):
            out.writerow([int(nm), *(f"{value:.8f}" for value in (*rho_row, *weight_row))])


if __name__ == "__main__":
    main()
