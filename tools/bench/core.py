"""The core's own figures."""

from __future__ import annotations

import re
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import numpy as np

from tools.bench.show import show, timed

TRIED = (300, 301, 302, 303)


def measure() -> None:
    from scipy.sparse.linalg import cg
    from skimage.measure import label

    from demo.lineart import DRAWINGS
    from demo.scanner import scan
    from paleta.colour import difference
    from paleta.impression import find_regions, find_things, read
    from paleta.light import Glow, Lamp, Zoning, glow_light, guess_bodies, illuminate, levels, model_forms, thresholds
    from paleta.light._poisson import assemble
    from paleta.light._relief import body_map_of
    from paleta.media import Swatch
    from paleta.order import PACES, SCHOOLS, make_plan
    from paleta.palette import find_ramps

    impression = read(scan(DRAWINGS["balloon"]())[0])
    region_map = find_regions(impression)
    bodies = guess_bodies(region_map)
    print(f"panel {region_map.labels.shape[1]} x {region_map.labels.shape[0]} px, {len(region_map.regions)} regions")
    ink = region_map.ink
    letter = scan(DRAWINGS["balloon"](), dpi=600)[0]
    show("read and find regions, 600 dpi", timed(lambda: find_regions(read(letter)), 3), 1500)
    with ProcessPoolExecutor(1, mp_context=get_context("spawn")) as alone:
        most_gb = alone.submit(memory_of_finding, letter).result()
    print(f"{'most memory of it':44}{'0.69 GB':>10}{most_gb:7.2f} GB{0.5:7} GB")
    show("find regions", timed(lambda: find_regions(impression)), 400, timed(lambda: label(~ink)), "skimage label")

    show("things of the panel", timed(lambda: find_things(region_map)), 500)

    system = assemble(body_map_of(region_map, bodies), bodies)
    plain = timed(lambda: cg(system.matrix, system.right, rtol=1e-4, maxiter=4000), 3)
    show(
        "model forms",
        timed(lambda: model_forms(region_map, bodies)),
        500,
        plain,
        "SciPy's plain cg on the same system",
    )

    relief = model_forms(region_map, bodies)
    labels = np.ascontiguousarray(region_map.labels[::2, ::2])

    def turn() -> None:
        steps = levels(illuminate(relief, Lamp(azimuth_deg=200, elevation_deg=35), full_size=False))
        thresholds(steps, labels, Zoning())

    glows = (Glow(x_mm=20, y_mm=30, tint="#ffd27a"), Glow(x_mm=80, y_mm=90, reserve_mm=3))

    glowing = glow_light(relief, glows)

    def turn_with_glows() -> None:
        lamp = Lamp(azimuth_deg=200, elevation_deg=35)
        steps = levels(illuminate(relief, lamp, glows, full_size=False, glowing=glowing))
        thresholds(steps, labels, Zoning())

    dot = timed(lambda: relief.normals @ np.array((0.1, 0.2, 0.9), np.float32))
    show("lamp turn, core", timed(turn, 15), 25, dot, "NumPy's dot product")
    show("lamp turn with two glows, core", timed(turn_with_glows, 15), 25, dot, "NumPy's dot product")

    chance = np.random.default_rng(7)
    drawer = [
        Swatch(code=f"s{i}", name=f"S {i}", medium="marker", lab=(*chance.uniform((20, -50, -50), (95, 50, 50)),))
        for i in range(1000)
    ]
    all_lab = np.array([swatch.lab for swatch in drawer])
    pairs = timed(lambda: difference(all_lab, (60, 20, 10)))
    show(
        "ramps of 4 from 1,000 swatches",
        timed(lambda: find_ramps(drawer, (60, 20, 10), 4), 15),
        50,
        pairs,
        "CIEDE2000 of 1,000",
    )
    work = sixty_regions()
    ordered = timed(lambda: sorted(work.jobs, key=lambda job: job.ramp))
    show(
        "plan, 60 regions of 3 passes",
        timed(lambda: make_plan(work, SCHOOLS["M2"], PACES["marker"])),
        2000,
        ordered,
        "sorting the jobs",
    )


def sixty_regions() -> Any:
    from paleta.order import Job, Work

    chance = np.random.default_rng(2)
    ramps = [tuple(f"c{k}-{i}" for i in range(3)) for k in range(9)]
    jobs = tuple(Job(i, f"R{i}", float(chance.uniform(4, 200)), ramps[chance.integers(9)]) for i in range(1, 61))
    return Work(jobs, Work.pairs((i, j) for i in range(1, 61) for j in (i + 1, i + 7) if j <= 60))


def memory_of_finding(data: bytes) -> float:
    """GB that reading and finding take at most, in a process that does nothing else."""
    from paleta.impression import find_regions, read

    find_regions(read(data))
    # Not getrusage: what it tells begins with what the process that started this one had.
    most = re.search(r"VmHWM:\s+(\d+) kB", Path("/proc/self/status").read_text())
    assert most is not None
    return int(most[1]) / 1e6


def regions_recovered() -> None:
    """True cells found one to one: in the demo's drawings, and in drawings made by chance with open outlines that the
    network of paleta/impression/regions/_gap_classifier.py was not fitted on."""
    from demo.lineart import DRAWINGS, scenes, sprays
    from demo.truth import DEGRADED, measure

    demo = [make() for make in DRAWINGS.values()]
    chance = [make(seed) for make in (sprays, scenes) for seed in TRIED]
    for words, drawings, seeds in (("the demo's drawings", demo, (1, 2)), ("drawings made by chance", chance, (3,))):
        for degree, faults in DEGRADED.items():
            found = measure(faults, drawings, seeds=seeds)
            rest = f"leaked {found.leaked:.1%} of {found.cells} in {words}"
            print(f"{f'regions recovered, {degree} stampings':44}{found.recovered:7.1%}    {rest}")
