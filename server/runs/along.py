"""Colouring along: starting a run, its log, its photos, and what is kept of it."""

from __future__ import annotations

import threading
import time
import uuid
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from typing import Any

from cachetools import LRUCache
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from rest_framework.exceptions import NotFound

from paleta.errors import EventError
from paleta.media import Swatch
from paleta.order import MOST_COPIES, Pace, Pen, Plan, Timed, batch
from paleta.recipe import Recipe, Sheet
from paleta.run import (
    AnotherPen,
    Event,
    Moved,
    Photographed,
    RunState,
    Started,
    as_done,
    differed,
    event_from_plain,
    event_to_plain,
    pairs_between,
    pens_taken,
    plan_key,
    replay,
    seconds_of,
    times_of,
    what_moving_does,
)
from server.derived import jobs, plans, worker
from server.derived.maps import Stamping
from server.derived.memory import memory
from server.drawers.models import SwatchRecord
from server.files import store
from server.ownership import locked, require_owner
from server.pieces.models import Piece
from server.pieces.pace import paces_of
from server.pieces.quota import recount, require_room
from server.pieces.steps import prepare_step, write_step
from server.problems import Refused, TooLarge
from server.recipes.models import RecipeRecord
from server.recipes.services import freeze, recipe_named, recipe_of, write_version
from server.runs.models import Run, RunEvent

MOST_AT_ONCE = 1_000
MOST_EVENTS = 30_000
MOST_PHOTOS = 40
AHEAD_S = 600.0
"""Clocks of phones differ; of one that is further ahead the time of receiving is kept instead."""
PIECE_GONE = "The piece of this run is no longer on the shelf; only its line in the logbook is left."
TIMES_KEPT = 2_000
LOGS_KEPT, LINE_BYTES = 8, 600
"""Logs that stay in memory, and about how much one line takes there."""
LEAST_S = 0.1
OURS = (Started.kind, Moved.kind, Photographed.kind)
"""Lines that only the server writes."""
PHOTO_LIMIT_S, PHOTO_LIMIT_MB = 20.0, 512

_logs: LRUCache[tuple[int, datetime], tuple[Event, ...]] = LRUCache(LOGS_KEPT)
_guard = threading.Lock()


@dataclass(frozen=True, slots=True)
class SyncResult:
    """What became of lines that were sent, and the lines that whoever sent them has not seen."""

    accepted: list[str]
    refused: list[dict[str, str]]
    events: list[dict[str, Any]]
    last: int


def start_run(*, actor: User, piece: Piece, version: int, cards: int = 1) -> Run:
    """Begin to colour so many cards along the plan. A version is kept first if the sheet has changed since the last.

    A run of the same version and cards on which nothing is laid yet is gone on with.

    Raises
    ------
    Refused
        If the plan has no pass.
    """
    if not 1 <= cards <= MOST_COPIES:
        raise Refused(f"A run is on 1 to {MOST_COPIES} cards.", "too_many_cards")
    require_owner(actor, piece)
    frozen = freeze(piece, piece.sheet())
    if not frozen.recipe.plan.passes:
        raise Refused("There is nothing to colour along yet: no region has its colours.", "nothing_to_colour")
    newest = piece.recipes.last()
    # The newest version holds its own order, which the sheet's would not be any more at a pace learnt since.
    recipe = recipe_of(newest) if newest and newest.sheet_sha256 == frozen.sha256 else frozen.recipe
    paces = paces_of(piece.owner_id, recipe.sheet.media)
    plan = _whole(piece.stamping, recipe, paces)
    with transaction.atomic():
        record = write_version(actor=actor, piece=piece, version=version, frozen=frozen)
        idle = piece.runs.filter(recipe=record, cards=cards, passes_laid=0, events_count=1, finished_at=None).first()
        if idle is not None:
            return idle
        run = Run.objects.create(
            owner=actor,
            piece=piece,
            recipe=record,
            recipe_number=record.number,
            title=piece.title,
            medium=recipe.sheet.main_medium,
            mixed=len(recipe.sheet.media) > 1,
            cards=cards,
            pace={medium: asdict(pace) for medium, pace in paces.items()},
            **_laid_out(plan, cards),
            **_asked(plan),
        )
        _write(run, [Started(id=_new_id(), at_s=time.time(), plan=plan_key(plan), cards=cards)])
    return run


def _laid_out(plan: Plan, cards: int) -> dict[str, Any]:
    """The order of work over the cards, and how long it takes."""
    if cards == 1 or plan.work is None:
        return {"lines": [[1, len(plan.passes)]], "planned_s": plan.duration_s}
    made = batch(plan.work, plan, None, cards)
    return {"lines": [[one.first_pass, one.last_pass] for one in made.lines], "planned_s": made.duration_s}


def _asked(plan: Plan) -> dict[str, Any]:
    asked = asdict(Timed.of(plan, 1.0))
    asked.pop("seconds")
    return asked


def _whole(stamping: Stamping, recipe: Recipe, paces: Mapping[str, Pace]) -> Plan:
    """The recipe's plan, knowing what it was made for."""
    sheet = recipe.sheet
    return replace(recipe.plan, work=plans.work_on(stamping, sheet), ways=plans.ways_on(sheet, paces))


def recipe_followed(run: Run) -> Recipe:
    """The frozen recipe that the run follows.

    Raises
    ------
    Refused
        If it went with its piece.
    """
    piece_of(run)
    if run.recipe is None:
        raise Refused(PIECE_GONE, "gone")
    return recipe_of(run.recipe)


def piece_of(run: Run) -> Piece:
    """The piece that is coloured.

    Raises
    ------
    Refused
        If it is no longer there.
    """
    if run.piece is None:
        raise Refused(PIECE_GONE, "gone")
    return run.piece


def stamping_of(run: Run) -> Stamping:
    """The picture and map that the run is coloured on."""
    return piece_of(run).stamping


def plan_followed(run: Run) -> Plan:
    """The plan of the run, knowing its work."""
    recipe, stamping = recipe_followed(run), stamping_of(run)
    return memory.get(
        ("run plan", run.pk, run.made_at, run.recipe_id), lambda: _whole(stamping, recipe, run.paces_used())
    )


def state_of(run: Run) -> RunState:
    """What is laid by now."""
    plan = plan_followed(run)
    key = ("run state", run.pk, run.made_at, run.recipe_id, run.events_count)
    return memory.get(key, lambda: replay(plan, log_of(run)), size=run.events_count * LINE_BYTES)


def log_of(run: Run) -> tuple[Event, ...]:
    """The lines of the run. They never change, so of a log that was read lately only the newer ones are."""
    name = (run.pk, run.made_at)
    with _guard:
        known = _logs.get(name, ())
    if len(known) < run.events_count:
        newer = run.events.filter(number__gt=len(known)).order_by("number")
        known = (*known, *(event.as_core() for event in newer))
        with _guard:
            _logs[name] = known
    return known[: run.events_count]


def record(*, actor: User, run: Run, lines: Sequence[Any], seen: int = 0) -> SyncResult:
    """Take lines into the log. Each is taken or refused by itself; one that is there already is taken again and changes
    nothing. `seen` is the number of the last line that whoever sends has seen.

    Raises
    ------
    TooLarge
        If there are more than MOST_AT_ONCE.
    """
    require_owner(actor, run)
    if len(lines) > MOST_AT_ONCE:
        raise TooLarge(f"A log takes up to {MOST_AT_ONCE:,} lines at once; send the rest after them.")
    plan = plan_followed(run)
    key, now = plan_key(plan), time.time()
    moves = run.events.filter(body__kind=Moved.kind)
    followed = {key, *moves.values_list("body__from_plan", flat=True)}
    good: dict[str, Event] = {}
    accepted: list[str] = []
    refused: list[dict[str, str]] = []
    for line in lines:
        given = line.get("id") if isinstance(line, Mapping) else None
        name = given[:40] if isinstance(given, str) else ""
        try:
            event = event_from_plain(line).received(now, AHEAD_S)
            _check(event, run, plan, key, followed)
            if good.setdefault(event.id, event) != event:
                raise EventError("Two lines of one id say different things.")
        except EventError as error:
            refused.append({"id": name, "detail": str(error)})
    if good:
        run = _take_in(run, list(good.values()), accepted, refused)
    events = list(run.events.filter(number__gt=seen).values_list("body", flat=True))
    return SyncResult(accepted, refused, events, run.events_count)


def _take_in(run: Run, good: Sequence[Event], accepted: list[str], refused: list[dict[str, str]]) -> Run:
    """Write what is not in the log yet, and say of every line what became of it."""
    with transaction.atomic():
        run = locked(run)
        there = dict(run.events.filter(client_id__in=[one.id for one in good]).values_list("client_id", "body"))
        fresh: list[Event] = []
        for event in good:
            body = there.get(event.id)
            if body is not None and event_from_plain(body).as_sent() != event.as_sent():
                refused.append({"id": event.id, "detail": "A line of this id is in the log, and says something else."})
                continue
            if body is None and run.events_count + len(fresh) >= MOST_EVENTS:
                refused.append({"id": event.id, "detail": f"A run's log holds up to {MOST_EVENTS:,} lines."})
                continue
            accepted.append(event.id)
            if body is None:
                fresh.append(event)
        _write(run, fresh)
    if fresh:
        update_summary(run)
    return run


def _check(event: Event, run: Run, plan: Plan, key: str, followed: Collection[str]) -> None:
    """EventError if the line cannot be of this run; `key` names its plan, `followed` that and those it followed."""
    if event.kind in OURS:
        raise EventError(f"A {event.kind!r} line is written by the server alone.")
    if event.card > run.cards:
        raise EventError(f"This run is on {run.cards} cards; the line speaks of card {event.card}.")
    numbers = getattr(event, "passes", ())
    if event.plan == key:
        if numbers and max(numbers) > len(plan.passes):
            raise EventError("The line speaks of a pass that the plan does not have.")
    elif event.plan not in followed:
        raise EventError("The line speaks of another plan than this run follows or ever followed.")


def _write(run: Run, events: Sequence[Event]) -> None:
    """Add lines at the end of the log, inside the running transaction."""
    RunEvent.objects.bulk_create(
        RunEvent(run=run, number=run.events_count + place, client_id=event.id, body=event_to_plain(event))
        for place, event in enumerate(events, start=1)
    )
    run.events_count += len(events)
    Run.objects.filter(pk=run.pk).update(events_count=run.events_count)


def update_summary(run: Run) -> None:
    """Copy what follows from the log into the run's row. It can be done again at any time; what was read off a log that
    has grown since is left to whoever made it grow."""
    state = state_of(run)
    run.passes_laid = sum(len(card.laid) for card in state.cards)
    laid = [one.swatch for card in state.cards for one in card.laid.values()]
    names = names_of(recipe_followed(run).sheet, state)
    run.pens = sorted(set(laid))
    run.pens_text = "\n".join(f"{code} {names.get(code, '')}" for code in run.pens).lower()
    run.differed = [asdict(one) for one in differed(state, names)]
    run.times = {
        medium: [list(asdict(one).values()) for one in times[-TIMES_KEPT:]] for medium, times in times_of(state).items()
    }
    shown = [event.sha256 for event in state.log if isinstance(event, Photographed)]
    run.photo = shown[-1] if shown else ""
    run.finished_at = (run.finished_at or timezone.now()) if state.done else None
    # A run that was called finished before anything was laid took no time that could teach.
    run.seconds = max(round(seconds_of(state), 1), LEAST_S) if state.done and run.passes_laid else None
    names_copied = ("passes_laid", "pens", "pens_text", "differed", "times", "photo", "seconds", "finished_at")
    copied = {name: getattr(run, name) for name in names_copied}
    Run.objects.filter(pk=run.pk, events_count=run.events_count).update(**copied)


def names_of(sheet: Sheet, state: RunState) -> dict[str, str]:
    """Names of swatches by code: those of the sheet, and those that were taken instead."""
    taken = {event.code: event.name for event in state.log if isinstance(event, AnotherPen) and event.name}
    return {**taken, **{one.code: one.name for one in sheet.colours.swatches.values()}}


def add_photo(*, actor: User, run: Run, data: bytes, id: str, at_s: float, card: int, text: str) -> Run:
    """Keep a photo of the run: read, turned as it was held, made smaller and written anew, so that nothing else that a
    phone puts into its files is kept. Sent again it changes nothing."""
    require_owner(actor, run)
    if run.events.filter(client_id=id).exists():
        return run
    if run.events.filter(body__kind=Photographed.kind).count() >= MOST_PHOTOS:
        raise Refused(f"A run keeps up to {MOST_PHOTOS} photos.", "full")
    if card > run.cards:
        raise EventError(f"This run is on {run.cards} cards.")
    plan = plan_followed(run)
    small = worker.run(jobs.small_photo, data, limit_s=PHOTO_LIMIT_S, memory_mb=PHOTO_LIMIT_MB)
    require_room(actor, more_pieces=0, more_bytes=len(small))
    event = Photographed(
        id=id, at_s=min(at_s, time.time()), plan=plan_key(plan), card=card, text=text, sha256=store.keep(small)
    )
    with transaction.atomic():
        run = locked(run)
        if not run.events.filter(client_id=id).exists():
            _write(run, [event])
            recount(run.piece_id)
    update_summary(run)
    return run


def photo_of(run: Run, sha256: str) -> bytes:
    """One of the run's photos."""
    if not run.events.filter(body__kind=Photographed.kind, body__sha256=sha256).exists():
        raise NotFound("The run has no such photo.")
    return store.fetch(sha256)


def newest_version(run: Run) -> RecipeRecord:
    piece = piece_of(run)
    return recipe_named(piece, str(piece.latest_recipe))


def moving_does(run: Run) -> list[str]:
    """Sentences for what moving the run over to the newest version does."""
    new = recipe_of(newest_version(run)).plan
    return what_moving_does(state_of(run), new)


def move_run(*, actor: User, run: Run) -> Run:
    """Follow the newest version from here on."""
    require_owner(actor, run)
    newest, old = newest_version(run), plan_followed(run)
    recipe = recipe_of(newest)
    if not recipe.plan.passes or recipe.sheet.main_medium != run.medium:
        raise Refused("The newest version has nothing to colour in this medium; start a new run of it.", "cannot_move")
    media = recipe.sheet.media
    paces = {**paces_of(run.owner_id, media), **run.paces_used()}
    new = _whole(stamping_of(run), recipe, paces)
    if newest.pk == run.recipe_id or plan_key(new) == plan_key(old):
        return run
    event = Moved(
        id=_new_id(), at_s=time.time(), plan=plan_key(new), from_plan=plan_key(old), pairs=pairs_between(old, new)
    )
    copied = {
        **_laid_out(new, run.cards),
        **_asked(new),
        "mixed": len(media) > 1,
        "pace": {medium: asdict(paces[medium]) for medium in media},
    }
    with transaction.atomic():
        run = locked(run)
        _write(run, [event])
        run.recipe, run.recipe_number = newest, newest.number
        for name, value in copied.items():
            setattr(run, name, value)
        run.save()
    update_summary(run)
    return run


def keep_as_version(*, actor: User, run: Run) -> RecipeRecord:
    """What was done becomes the next version: the pens that were taken, and notes of extra coats and rescues.

    The sheet on the bench becomes it too, as one step that can be undone.

    Raises
    ------
    Refused
        If a pen that was taken is in none of the drawers.
    """
    require_owner(actor, run)
    recipe, state = recipe_followed(run), state_of(run)
    known = recipe.sheet.colours.swatches
    taken = {(medium, code) for (_, (medium, _)), code in pens_taken(state).items()} - known.keys()
    swatches = {**known, **_in_drawers(actor, taken)}
    names = names_of(recipe.sheet, state)
    lost = sorted(names.get(code, code) for _, code in taken - swatches.keys())
    if lost:
        raise Refused(f"{lost[0]} is in none of your drawers. Add it there, then keep what you did.", "pen_missing")
    sheet = as_done(recipe.sheet, state, swatches, names)
    piece, what = piece_of(run), f"As it was coloured along version {run.recipe_number}"
    prepared, frozen = prepare_step(piece, piece.version, sheet), freeze(piece, sheet)
    with transaction.atomic():
        piece = write_step(actor=actor, piece=piece, version=piece.version, what=what, prepared=prepared)
        return write_version(actor=actor, piece=piece, version=piece.version, frozen=frozen)


def _in_drawers(owner: User, pens: set[Pen]) -> dict[Pen, Swatch]:
    rows = SwatchRecord.objects.filter(drawer__owner=owner, code__in=[code for _, code in pens])
    found = {
        (row.drawer.medium, row.code): row.as_core(row.drawer.medium)
        for row in rows.select_related("drawer").order_by("-pk")
    }
    return {pen: found[pen] for pen in pens if pen in found}


def _new_id() -> str:
    return uuid.uuid4().hex
