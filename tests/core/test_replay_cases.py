"""What a run's log adds up to, by the cases that the page's replay is held against too."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from paleta.order import PACES, SCHOOLS, Handling, Mask, Pass, Plan, Ways, Work
from paleta.run import RunState, event_from_plain, plan_key, replay

CASES = json.loads((Path(__file__).parents[1] / "cases" / "replay.json").read_text())
PLACES = {1: (1, "marker"), 2: (2, "marker"), 3: (1, "marker"), 4: (3, "pencil")}
"""Region and medium of each pass."""


def one_pass(number: int) -> Pass:
    region, medium = PLACES[number]
    return Pass(
        region=region, name=f"R{region}", medium=medium, coat=0, swatch="a", shade=1, zones=(0,), zone="all over",
        join="start", how="", area_mm2=10, number=number, start_s=0, end_s=0, wait_s=0, wait_for="", change=False,
    )  # fmt: skip


def one_step(kind: str) -> Handling:
    return Handling(kind, 0, kind, "", 1, 0, 0, 0)


PLAN = Plan(
    passes=tuple(map(one_pass, PLACES)), pen_changes=1, duration_s=0, bound_s=0,
    handling=(one_step("lay"), one_step("lift")),
    ways=Ways.of({medium: SCHOOLS[code] for medium, code in (("marker", "M1"), ("pencil", "P1"))}),
    work=Work((), masks=(Mask(frozenset({1}), frozenset({2})),)),
)  # fmt: skip
KEYS = {"now": plan_key(PLAN), "old": "0" * 16, "mid": "1" * 16, "odd": "2" * 16}


def with_keys(line: dict[str, Any]) -> dict[str, Any]:
    return {name: KEYS[value] if name in ("plan", "from_plan") else value for name, value in line.items()}


def told(state: RunState) -> dict[str, Any]:
    """A state as the cases write it."""
    return {
        "cards": [
            {
                "laid": {str(number): one.at_s for number, one in sorted(card.laid.items())},
                "touched": {str(region): one.at_s for region, one in sorted(card.touched.items())},
                "handled": sorted(card.handled),
            }
            for card in state.cards
        ],
        "set_aside": sorted(name for name, _ in state.set_aside),
        "pens": {f"{medium} {code}": taken for (medium, code), taken in state.pens.items()},
        "here": {f"{card}-{number}": code for (card, number), code in state.here.items()},
        "finished": state.finished,
    }


class ReplayCasesTest(SimpleTestCase):
    def test_every_case_adds_up_to_what_it_says_in_any_order(self):
        for case in CASES["cases"]:
            events = [event_from_plain(with_keys(line)) for line in case["log"]]
            expected = {"set_aside": [], "pens": {}, "here": {}, "finished": False}
            expected |= {name: value for name, value in case.items() if name not in ("name", "log")}
            for order in (events, events[::-1], [*events, *events]):
                with self.subTest(case=case["name"]):
                    self.assertEqual(told(replay(PLAN, order)), expected)

    def test_the_drying_times_of_the_cases_are_common_practice(self):
        for medium, seconds in CASES["touch_dry_s"].items():
            self.assertEqual(PACES[medium].touch_dry_s, seconds)
