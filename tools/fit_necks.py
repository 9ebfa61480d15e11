"""Fit the network by which a broken line is told from a cell that narrows: `python -m tools.fit_necks` (half an hour).

Scans of drawings made by chance, and stampings made by script (tools/stampings, tools/things), are cut into cells; for
every place where two cells meet, the drawing says whether they are one cell. Writes
paleta/impression/networks/gap_classifier.npz and prints how it does on drawings not used for it. The demo's own
drawings and the stampings held back are never trained on.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from sklearn.neural_network import MLPClassifier

from demo.lineart import Drawing, scenes, sprays
from demo.scanner import Faults, scan
from demo.truth import DEGRADED, true_cells
from paleta import impression
from paleta.impression import Impression, read
from paleta.impression.regions import _find
from paleta.impression.regions._gap_classifier import inputs, judge, views
from paleta.impression.regions._ink import separate_ink
from paleta.impression.regions._necks import FEATURES, evidence, find_necks, line_width
from tools.networks import named
from tools.stampings import DEGREES, Panel, panel, panel_of_things, stamp
from tools.stampings import true_cells as stamped_cells

PLACE = Path(impression.__file__).parent / "networks" / "gap_classifier.npz"
FAMILIES: dict[str, Callable[[int], Drawing]] = {"sprays": sprays, "scenes": scenes}
TRAINED_ON = {"sprays": range(100, 140), "scenes": range(100, 160)}
TRIED_ON = {"sprays": range(200, 206), "scenes": range(200, 206)}
STAMPINGS_TRAINED_ON, STAMPINGS_TRIED_ON = range(100, 360), range(400, 412)
THINGS_TRAINED_ON, THINGS_TRIED_ON = range(3000, 3200), range(4000, 4012)
STAMPED = tuple(DEGREES[name] for name in ("clean", "light", "medium", "hard"))
"""Nothing is fitted on stampings that are worn: there it shows what has been learnt."""
STAMPING_DPI = (150, 200, 300, 400)
GAPS_MM = (0.8, 1.0, 1.2)
SCANS: tuple[Faults, ...] = (*DEGRADED.values(), replace(DEGRADED["medium"], gap_mm=1.2))
HIDDEN, RIDGE, ROUNDS, BATCH = (96, 32), 0.05, 15, 512
LOUD_MEASURES = 3.0
"""The views are many and alike: each of their samples counts so much less than a measure."""

Samples = tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.bool_]]


def samples(family: str, seed: int) -> Samples:
    """Measures and views of every neck whose two cells each lie in one true cell, and whether that is the same."""
    parts = []
    for turn, faults in enumerate(SCANS):
        drawing = FAMILIES[family](seed)
        data, _ = scan(drawing, faults=faults, seed=seed)
        parts.append(_of_scan(data, true_cells(drawing, faults.turn_deg), GAPS_MM[(seed + turn) % len(GAPS_MM)]))
    seen, looked, same = (np.concatenate(part) for part in zip(*parts, strict=True))
    return seen, looked, same


def samples_of_stamping(seed: int) -> Samples:
    """The same of a stamping made by script, in all degrees, flat on the glass."""
    return _of_stampings(seed, lambda turn: panel(seed, STAMPING_DPI[(seed + turn) % len(STAMPING_DPI)]))


def samples_of_things(seed: int) -> Samples:
    """The same of a drawing of things."""
    drawn = panel_of_things(seed)
    return _of_stampings(seed, lambda _: drawn)


def _of_stampings(seed: int, drawing: Callable[[int], Panel]) -> Samples:
    parts = []
    for turn, degree in enumerate(STAMPED):
        drawn = drawing(turn)
        picture = stamp(drawn, replace(degree, photo=0.0), seed * 10 + turn)
        impression = read(picture.data, dpi=picture.dpi)
        truth = cv2.warpPerspective(
            stamped_cells(drawn).astype(np.float32), picture.to_picture, impression.pixels.shape[1::-1],
            flags=cv2.INTER_NEAREST,
        )  # fmt: skip
        # The paper around is a cell like any other here, and what is too small to count is none.
        parts.append(_of_impression(impression, truth.astype(np.int32) + 1, 1.0))
    seen, looked, same = (np.concatenate(part) for part in zip(*parts, strict=True))
    return seen, looked, same


def _of_scan(data: bytes, truth: NDArray[np.int32], gap_mm: float) -> Samples:
    return _of_impression(read(data), truth, gap_mm)


def _of_impression(impression: Impression, truth: NDArray[np.int32], gap_mm: float) -> Samples:
    px_per_mm = impression.px_per_mm
    ink = separate_ink(impression)
    distance = cv2.distanceTransform((~ink).astype(np.uint8), cv2.DIST_L2, 5)
    cells = _find.cut_apart(ink, distance, px_per_mm, gap_mm)
    cells = _find._drop_small(cells, _find.SPLINTER_MM2 * px_per_mm**2)
    cells = _find._closed_seams(cells, ink)
    necks = find_necks(cells, distance)
    lies_in, pure = _true_cell_of(cells, truth)
    usable = pure[necks.pairs].all(axis=1)
    line = line_width(ink)
    widest_mm = _find.BEYOND_GAP * gap_mm
    seen = evidence(necks, cells, distance, ink, line=line, px_per_mm=px_per_mm, gap_mm=widest_mm).astype(np.float32)
    same = lies_in[necks.pairs[:, 0]] == lies_in[necks.pairs[:, 1]]
    return seen[usable], views(necks, ink, line)[usable], same[usable]


def _true_cell_of(cells: NDArray[np.int32], truth: NDArray[np.int32]) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    both = (cells > 0) & (truth > 0)
    size = int(truth.max()) + 1
    code, count = np.unique(cells[both].astype(np.int64) * size + truth[both], return_counts=True)
    order = np.argsort(count)
    best, most, total = (np.zeros(int(cells.max()) + 1, np.int64) for _ in range(3))
    np.add.at(total, code // size, count)
    best[(code // size)[order]] = (code % size)[order]
    most[(code // size)[order]] = count[order]
    return best, most > 0.75 * np.maximum(total, 1)


def gather(seeds: dict[str, range], stampings: range, things: range) -> Samples:
    jobs = [(family, seed) for family, own in seeds.items() for seed in own]
    with ProcessPoolExecutor(2) as pool:
        parts = [
            *pool.map(samples, *zip(*jobs, strict=True)),
            *pool.map(samples_of_stamping, stampings),
            *pool.map(samples_of_things, things),
        ]
    seen, looked, same = (np.concatenate(part) for part in zip(*parts, strict=True))
    return seen, looked, same


def fit(
    seen: NDArray[np.float32], looked: NDArray[np.float32], same: NDArray[np.bool_]
) -> dict[str, NDArray[np.float32]]:
    """The weights by their names in the file. Mirrored necks are the same necks: all four are shown."""
    mirrored = [looked[:, :, ::down, ::right] for down in (1, -1) for right in (1, -1)]
    x = np.concatenate([inputs(seen, one) for one in mirrored])
    middle, spread = x.mean(axis=0), np.maximum(x.std(axis=0), 0.05)
    spread[len(FEATURES) :] *= LOUD_MEASURES
    net = MLPClassifier(HIDDEN, alpha=RIDGE, batch_size=BATCH, learning_rate_init=1e-3, max_iter=ROUNDS, random_state=1)
    net.fit((x - middle) / spread, np.tile(same, 4))
    weights = {"middle": middle, "spread": spread} | named("cell", net)
    # Half as long is exact enough, and the file lies in every copy of Paleta.
    return {name: np.asarray(value, np.float16 if value.ndim > 1 else np.float32) for name, value in weights.items()}


def main() -> None:
    np.savez_compressed(
        PLACE, features=np.array(FEATURES), **fit(*gather(TRAINED_ON, STAMPINGS_TRAINED_ON, THINGS_TRAINED_ON))
    )
    seen, looked, same = gather(TRIED_ON, STAMPINGS_TRIED_ON, THINGS_TRIED_ON)
    says = judge(seen, looked)
    for bar in (0.0, 1.0, 2.0, 3.0):
        sys.stdout.write(
            f"of {len(same)} places not used, at log odds {bar}: cells kept whole {(says > bar)[same].mean():.1%}, "
            f"breaks seen {(says <= bar)[~same].mean():.1%}\n"
        )


if __name__ == "__main__":
    main()
