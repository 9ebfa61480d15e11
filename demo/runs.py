"""The demo's logbook: who coloured what, how long it took, and what went wrong. All of it is invented."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

import numpy as np
from django.utils import timezone

from paleta.colour import lab_to_hex
from paleta.devices import photograph
from paleta.order import Plan
from paleta.recipe import Stint, stints_of
from paleta.run import (
    AnotherPen,
    Event,
    Handled,
    Noted,
    PassesLaid,
    Rescued,
    Slip,
    Touched,
    event_to_plain,
    needs_of,
    plan_key,
)
from server.derived import pictures
from server.drawers.models import SwatchRecord
from server.pieces.models import Piece
from server.runs.along import MOST_AT_ONCE, add_photo, plan_followed, recipe_followed, record, start_run, update_summary
from server.runs.models import Run, RunEvent

SCATTER = 0.18
"""Of a hand's times around its own pace, as a natural logarithm."""


@dataclass(frozen=True)
class DemoRun:
    """A run of the piece called `title`: on so many cards, so many days ago, by a hand of this pace (1: common
    practice). share of the passes is laid; slips happen after these shares of them; `pen` is (planned, taken)."""

    title: str
    days_ago: float
    cards: int = 1
    pace: float = 1.0
    share: float = 1.0
    slips: tuple[tuple[float, str, str], ...] = ()
    pen: tuple[str, str] | None = None
    note: str = ""
    photo: bool = True


RUNS = (
    DemoRun("Three on the shelf", 26, cards=6, pace=0.9, note="Six for the door, all alike from arm's length."),
    DemoRun(
        "Pangolin at the telescope",
        19,
        pace=1.2,
        slips=((0.2, "over the line", "rub out"), (0.7, "no depth", "darker")),
        note="More black under the scarf next time.",
    ),
    DemoRun("Pangolin at the telescope", 9, pace=0.8, note="Quicker, and the lantern glows."),
    DemoRun(
        "Balloon over the terraces",
        6,
        pace=1.1,
        slips=((0.35, "stripe", "melt again"),),
        pen=("Rose 14", "Coral 25"),
        note="Rose 14 had dried out.",
    ),
    DemoRun("Balloon over the terraces", 0.1, pace=1.0, share=0.45, photo=False),
)


def load_runs(user: Any, pieces: dict[str, Piece]) -> None:
    """Make every run as if it had happened."""
    for number, demo in enumerate(RUNS):
        piece = Piece.objects.get(pk=pieces[demo.title].pk)
        _load(user, piece, demo, seed=number)


def _load(user: Any, piece: Piece, demo: DemoRun, *, seed: int) -> None:
    run = start_run(actor=user, piece=piece, version=piece.version, cards=demo.cards)
    begun = timezone.now() - timedelta(days=demo.days_ago)
    first = RunEvent.objects.get(run=run, number=1)
    first.body["at_s"] = begun.timestamp()
    first.save()
    events = list(_events(run, demo, begun.timestamp(), seed))
    for start in range(0, len(events), MOST_AT_ONCE):
        told = record(actor=user, run=run, lines=[event_to_plain(one) for one in events[start : start + MOST_AT_ONCE]])
        assert not told.refused, told.refused[0]
    run.refresh_from_db()
    if demo.photo:
        planned = pictures.picture(piece.stamping, recipe_followed(run).sheet, "coloured")
        photo, _ = photograph(planned, seed=seed + 40, size_px=(1600, 1200), slant=0.03)
        at_s = events[-1].at_s + 60
        run = add_photo(actor=user, run=run, data=photo, id=f"demo-photo-{seed}", at_s=at_s, card=1, text="")
    finished = begun + timedelta(seconds=events[-1].at_s - begun.timestamp()) if demo.share == 1 else None
    Run.objects.filter(pk=run.pk).update(made_at=begun, finished_at=finished)
    update_summary(Run.objects.get(pk=run.pk))


def _whole_blends(plan: Plan, course: Sequence[tuple[int, Stint]], most: int) -> int:
    """How many steps to do, at most `most`, so that no blend is left open over the break."""
    for count in range(most, 0, -1):
        laid = {
            (card, number) for card, stint in course[:count] for number in range(stint.first_pass, stint.last_pass + 1)
        }
        regions = {(card, plan.passes[number - 1].region) for card, number in laid}
        open_blends = any(
            one.join == "wet" and (card, one.number) not in laid and (card, one.region) in regions
            for one in plan.passes
            for card in {card for card, _ in laid}
        )
        if not open_blends:
            return count
    return 0


def _events(run: Run, demo: DemoRun, begun_s: float, seed: int) -> Iterator[Event]:
    """What that hand would have ticked off, waiting where the paper is wet."""
    chance = np.random.default_rng(seed)
    plan, recipe = plan_followed(run), recipe_followed(run)
    paces = run.paces_used()
    needs, key = needs_of(plan), plan_key(plan)
    codes = {one.name: one.code for one in recipe.sheet.colours.swatches.values()}
    touched: dict[tuple[int, int], Touched] = {}
    now, held = begun_s, plan.passes[0]
    handled = dict.fromkeys(range(1, run.cards + 1), 0)
    number = iter(range(100_000))

    def about(at_s: float, card: int = 1) -> dict[str, Any]:
        return {"id": f"demo-{seed}-{next(number):05}", "at_s": at_s, "plan": key, "card": card}

    def masks(card: int, upto: int) -> Iterator[Event]:
        """What is done with masks and tape before the pass `upto`."""
        nonlocal now
        for step, one in enumerate(plan.handling, start=1):
            if step > handled[card] and one.before_pass <= upto:
                handled[card], now = step, now + one.end_s - one.start_s
                yield Handled(**about(now, card), step=step)

    if demo.pen:
        planned, taken = demo.pen
        pens = SwatchRecord.objects.filter(drawer__owner=run.owner, drawer__medium=run.medium)
        other = pens.get(name=taken)
        lab = (other.lightness, other.a, other.b)
        yield AnotherPen(
            **about(now + 1), instead_of=codes[planned], code=other.code, name=other.name, hex=lab_to_hex(lab)
        )
    stints = stints_of(recipe.sheet, plan)
    course = [
        (card, stint)
        for first, last in run.lines
        for card in range(1, run.cards + 1)
        for stint in stints
        if first <= stint.first_pass and stint.last_pass <= last
    ]
    course = course[: _whole_blends(plan, course, round(demo.share * len(course)))]
    ends = {round(share * len(course)): (slip, rescue) for share, slip, rescue in demo.slips}
    for place, (card, stint) in enumerate(course):
        ones = plan.passes[stint.first_pass - 1 : stint.last_pass]
        asked = ((touched.get((card, need.region)), need) for need in needs[ones[0].number])
        dry = max((last.ready_s(need) for last, need in asked if last is not None), default=0.0)
        yield from masks(card, ones[0].number)
        pace = paces[ones[0].medium]
        hand = sum(pace.laying_s(one.area_mm2) for one in ones) + (pace.change_s if ones[0].pen != held.pen else 0)
        hand += pace.setup_s if ones[0].medium != held.medium else 0
        now = max(now, dry) + hand * demo.pace * float(np.exp(chance.normal(0, SCATTER)))
        held = ones[0]
        yield PassesLaid(**about(now, card), passes=tuple(one.number for one in ones))
        for one in ones:
            touched[card, one.region] = Touched(now, paces[one.medium])
        if place in ends:
            slip, rescue = ends[place]
            happened = Slip(**about(now + 4, card), slip=slip, passes=tuple(one.number for one in ones))
            yield happened
            now += 90
            yield Rescued(**about(now, card), event=happened.id, rescue=rescue)
    if demo.share == 1:
        for card in handled:
            yield from masks(card, len(plan.passes) + 1)
    if demo.note and demo.share == 1:
        yield Noted(**about(now + 30), text=demo.note)
