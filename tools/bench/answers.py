"""How right the answers are: stampings read, and plans, beside plain methods. `python -m tools.bench.answers`.

What is called held back was never looked at while the finder or the planner was worked on.
"""

from __future__ import annotations

import argparse
import time
from unittest.mock import patch

import numpy as np

from paleta.order import PACES, Job, Mask, Work, check_plan, make_plan, plan_plainly, school_named
from tools import photo_check
from tools.stampings import head, show, show_from_outside
from tools.things import measure

STAMPINGS, THINGS, CARDS, PAIRS = 12, 40, 8, 8
SIZES = {"tiny": (4, 3), "medium": (60, 4), "large": (120, 5)}
"""Regions, and shades at most."""
SCHOOLS = ("M1", "M3", "P1", "W2")
HELD_BACK_PLANS = 500
LONGER = 8


def stampings() -> None:
    print()
    head()
    show_from_outside()
    for drawing, held_back in (("own", False), ("own", True), ("closing", True), ("scenes", False)):
        show(STAMPINGS, held_back=held_back, drawing=drawing)


def things() -> None:
    print(f"\n{measure(THINGS)}")


def picture(seed: int, regions: int, shades: int) -> Work:
    """Work as a picture has it: families of pens, areas far apart, some regions with a pen of another family."""
    chance = np.random.default_rng([5, seed])
    families = [[f"{k}-{shade}" for shade in range(shades)] for k in range(max(2, regions // 8))]
    jobs = []
    for region in range(1, regions + 1):
        own = families[chance.integers(len(families))]
        count = int(chance.integers(1, shades + 1)) if chance.random() < 0.4 else shades
        ramp = own[:count] if chance.random() < 0.7 else sorted(chance.choice(own, count, replace=False).tolist())
        if chance.random() < 0.15:
            ramp = [ramp[0], *families[chance.integers(len(families))][1:count]]
        jobs.append(Job(region, f"R{region}", float(chance.lognormal(3.6, 0.8)), tuple(ramp)))
    near = {(int(a), int(b)) for a, b in chance.integers(1, regions + 1, (int(regions * 1.25), 2)) if a != b}
    return Work(tuple(jobs), Work.pairs(near))


def mixed(seed: int, regions: int) -> Work:
    """A figure in marker with pencil over part of it, washes, and blended grounds behind a mask."""
    chance = np.random.default_rng(seed)
    jobs = []
    for region in range(1, regions + 1):
        medium = "marker" if region <= 0.7 * regions else "watercolour" if region <= 0.9 * regions else "inkpad"
        ramp = tuple(f"{medium}-{place}" for place in sorted(chance.choice(14, 3, replace=False)))
        area, rank = float(chance.lognormal(3.6, 0.8)), 2 if medium == "inkpad" else 1
        jobs.append(Job(region, f"R{region}", area, ramp, medium=medium, rank=rank))
        if medium == "marker" and chance.random() < 0.25:
            pencils = (f"pencil-{chance.integers(8)}",)
            jobs.append(Job(region, f"R{region}", area, pencils, medium="pencil", coat=1, rank=rank))
    near = {(int(a), int(b)) for a, b in chance.integers(1, regions + 1, (int(regions * 1.25), 2)) if a != b}
    behind = frozenset(job.region for job in jobs if job.medium == "inkpad")
    mask = Mask(frozenset(job.region for job in jobs) - behind, behind)
    return Work(tuple(jobs), Work.pairs(near), masks=(mask,))


def plans_over_media() -> None:
    """The same over four media, with coats and a mask."""
    schools = {school.medium: school for school in map(school_named, ("M1", "W2", "P2", "B1"))}
    for regions in (20, 80):
        for words, seed in (("", 1), (", held back", HELD_BACK_PLANS)):
            work = mixed(seed, regions)
            begun = time.perf_counter()
            ours = make_plan(work, schools)
            took = time.perf_counter() - begun
            plain = plan_plainly(work, schools)
            faults = [*check_plan(work, ours), *check_plan(work, plain)]
            rest = f"   {len(faults)} FAULTS" if faults else ""
            print(
                f"{f'four media, {regions}' + words:24}{len(ours.passes):7}{ours.duration_s:9.1f}{ours.pen_changes:9}"
                f"{plain.duration_s:10.1f}{plain.pen_changes:9}{ours.bound_s:10.1f}{took:7.1f}s{rest}",
                flush=True,
            )


def plans(*, longer: bool) -> None:
    """Seconds of work and changes of pen beside the plain way, the bound and, if asked for, a longer search."""
    print("\nbefore, over 40 works by others: 1298 changes of pen, 1259 by the plain way, 1025 the best known")
    print(f"{'plans':24}{'passes':>7}{'s':>9}{'changes':>9}{'plain s':>10}{'changes':>9}{'bound s':>10}{'took':>8}")
    for size, (regions, shades) in SIZES.items():
        for code in SCHOOLS:
            for words, seed in (("", 1), (", held back", HELD_BACK_PLANS)):
                school = school_named(code)
                pace, work = PACES[school.medium], picture(seed, regions, shades)
                begun = time.perf_counter()
                ours = make_plan(work, school, pace)
                took = time.perf_counter() - begun
                plain = plan_plainly(work, school, pace)
                faults = [*check_plan(work, ours), *check_plan(work, plain)]
                rest = f"   {len(faults)} FAULTS" if faults else ""
                if longer and size != "tiny":
                    with patch.multiple(
                        "paleta.order._search", MOST_ROUNDS=LONGER * 500_000, EFFORT=LONGER * 400_000_000
                    ):
                        more = make_plan(work, school, pace)
                    rest += f"   {LONGER} times the search: {more.duration_s:.0f} s, {more.pen_changes}"
                print(
                    f"{size + ' ' + code + words:24}{len(ours.passes):7}{ours.duration_s:9.1f}{ours.pen_changes:9}"
                    f"{plain.duration_s:10.1f}{plain.pen_changes:9}{ours.bound_s:10.1f}{took:7.1f}s{rest}",
                    flush=True,
                )


def cards() -> None:
    """Photo checks of cards with faults, and second stampings."""
    print()
    for held_back in (False, True):
        photo_check.show(CARDS, PAIRS, held_back=held_back)


def main() -> None:
    wish = argparse.ArgumentParser(description=__doc__)
    wish.add_argument("--longer", action="store_true", help="set the plans beside a search of eight times the length")
    wish.add_argument("--only", choices=("stampings", "things", "plans", "cards"))
    given = wish.parse_args()
    if given.only in (None, "stampings"):
        stampings()
    if given.only in (None, "things"):
        things()
    if given.only in (None, "cards"):
        cards()
    if given.only in (None, "plans"):
        plans(longer=given.longer)
        plans_over_media()


if __name__ == "__main__":
    main()
