"""How many faults are found at how many false alarms, and how many pairs are carried over, as lines of a table."""

from __future__ import annotations

import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from functools import partial

import cv2
import numpy as np
from scipy.stats import binomtest

from paleta.devices import HOME_LIGHTS
from paleta.errors import PaletaError
from paleta.impression import read
from paleta.photo_check import NotTheSameStamp, PhotoReport, compare
from paleta.restamp import restamp
from tools.photo_check._cards import HELD_BACK, OTHER_HOME, MadeCard, made_card
from tools.photo_check._pairs import KINDS, pair

Tally = Counter[tuple[str, str]]
"""(what, "yes" or "no") to how often."""
ALIKE_DEG = 20.0
BROUGHT = 0.75


def show(cards: int, pairs: int, *, held_back: bool) -> None:
    """Print both tables for so many cards and pairs of each kind."""
    first, words = (HELD_BACK, ", held back") if held_back else (0, "")
    with ProcessPoolExecutor(2) as hands:
        for light in (*HOME_LIGHTS, OTHER_HOME):
            tally: Tally = Counter()
            seconds = []
            for got, took in hands.map(partial(_card, light), range(first, first + cards)):
                tally += got
                seconds.append(took)
            print(f"cards, {light}{words}: {_lines(tally)}   {np.median(seconds):.1f} s", flush=True)
        for kind in KINDS:
            tally = sum(hands.map(partial(_pair, kind), range(first, first + pairs)), Counter())
            print(f"pairs, {kind}{words}: {_lines(tally)}", flush=True)


def rate(yes: int, of: int) -> str:
    """A share with its 95 % interval by Wilson's formula ([Wilson1927])."""
    low, high = binomtest(yes, of).proportion_ci(method="wilson") if of else (0.0, 1.0)
    return f"{yes / max(of, 1):.3f} ({low:.2f}-{high:.2f} of {of})"


def _lines(tally: Tally) -> str:
    names = sorted({name for name, _ in tally})
    return "; ".join(f"{name} {rate(tally[name, 'yes'], tally[name, 'yes'] + tally[name, 'no'])}" for name in names)


def _card(light: str, seed: int) -> tuple[Tally, float]:
    """One card with faults of regions, one run over its lines, one with a pen that is off; the time of the first
    check."""
    cv2.setNumThreads(1)
    tally: Tally = Counter()
    took = 0.0
    for count, more in ((_count_faults, {}), (_count_over, {"kinds": ("over",)}), (_count_pen, {"pen": True})):
        made = made_card(seed, light, **more)
        begun = time.perf_counter()
        try:
            report = compare(made.photo, made.plan.sheet, made.region_map)
        except PaletaError:
            tally["not found at all", "yes"] += 1
            continue
        took = took or time.perf_counter() - begun
        tally["not found at all", "no"] += 1
        count(tally, made, report)
    return tally, took


def _count_over(tally: Tally, made: MadeCard, report: PhotoReport) -> None:
    told = {fault.region for fault in report.faults if fault.kind == "over"}
    wrong = {label for fault in made.faults for label in fault.regions}
    for label in made.fair:
        tally["run over" if label in wrong else "not run over, but told", "yes" if label in told else "no"] += 1


def _count_pen(tally: Tally, made: MadeCard, report: PhotoReport) -> None:
    for fault in made.faults:
        found = any(one.kind == "pen" and one.pen == fault.pen for one in report.faults)
        tally["pen off by 6", "yes" if found else "no"] += 1


def _count_faults(tally: Tally, made: MadeCard, report: PhotoReport) -> None:
    told = {label for fault in report.faults for label in fault.regions}
    wrong = {label: fault for fault in made.faults for label in fault.regions}
    for label in made.fair:
        fault = wrong.get(label)
        if fault is None:
            name = "false alarm"
        else:
            name = fault.kind if fault.kind in ("missing", "reversed") else f"off by {fault.size:.0f}"
        tally[name, "yes" if label in told else "no"] += 1
    lamp = made.plan.sheet.light.lamp.azimuth_deg
    settings = made.plan.sheet.regions.settings
    for label, light in report.lights.items():
        if label not in wrong and settings[label].form in ("dome", "tube"):
            near = abs((light.azimuth_deg - lamp + 180) % 360 - 180) <= ALIKE_DEG
            tally["light within 20 deg", "yes" if near else "no"] += 1
    if report.light is not None:
        near = abs((report.light.azimuth_deg - lamp + 180) % 360 - 180) <= ALIKE_DEG
        tally["light of the card", "yes" if near else "no"] += 1


def _pair(kind: str, seed: int) -> Tally:
    cv2.setNumThreads(1)
    one = pair(kind, seed)
    second = read(one.second, dpi=one.second_dpi)
    done = restamp(second, one.first, one.first_map)
    taken = not isinstance(done, NotTheSameStamp)
    tally: Tally = Counter({("taken", "yes" if taken else "no"): 1})
    if kind in ("plain", "bent") and not isinstance(done, NotTheSameStamp):
        shared = _shared(one.first_map.labels, done.region_map.labels, one.upright(second, done.registration.matrix))
        tally["carried", "yes"] += int((shared >= BROUGHT).sum())
        tally["carried", "no"] += int((shared < BROUGHT).sum())
    return tally


def _shared(first: np.ndarray, carried: np.ndarray, source: np.ndarray) -> np.ndarray:
    """Overlap (intersection over union) of each region with where it truly lies; `source` as of Pair.upright."""
    true = cv2.remap(first.astype(np.float32), source, None, cv2.INTER_NEAREST).astype(np.int64)
    span = int(max(true.max(), carried.max())) + 1
    both = np.bincount((true * span + carried).ravel(), minlength=span * span).reshape(span, span)
    whole = both.sum(axis=0) + both.sum(axis=1) - np.diag(both)
    there = both.sum(axis=1)[1:] > 0
    return (np.diag(both)[1:] / np.maximum(whole[1:], 1))[there]
