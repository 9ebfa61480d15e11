"""What users do with things: put regions together, take them apart, name them, and answer what is unsure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta.impression import PairScores
from paleta.recipe import ASKED, Sheet, new_name, proposed
from server.derived import jobs, worker
from server.derived.maps import map_sha256
from server.files import store
from server.pieces.models import Piece
from server.pieces.regions.services import settings_of, words_for
from server.pieces.steps import keep_step

WEIGH_LIMIT_S = 60.0


def group_regions(*, actor: User, piece: Piece, version: int, labels: Sequence[int], together: bool) -> Piece:
    """Make one thing of regions, or let each of them stand for itself again."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    if not together:
        changed = {label: replace(one, thing="") for label, one in settings.items()}
        what = f"{words_for(settings)}: {'stands for itself' if len(settings) == 1 else 'stand for themselves'}"
        return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed))
    joined, name = _joined(sheet, labels)
    what = f"{len(joined.regions.thing_mates(labels[0]))} regions are {name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=joined)


def join_alike(*, actor: User, piece: Piece, version: int, label: int) -> Piece:
    """Add to a region's thing whatever looks like it."""
    sheet = piece.sheet()
    settings_of(sheet, [label])
    alike = [mate for mate in weighed(piece, sheet).like(label, ASKED) if mate in sheet.regions.settings]
    if not set(alike) - set(sheet.regions.thing_mates(label)):
        raise ValidationError(
            {"label": "Nothing else looks like it. Take others in hand and say that they belong to it."}
        )
    joined, name = _joined(sheet, [label, *alike])
    what = f"All like {sheet.regions.settings[label].name} are {name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=joined)


def rename_thing(*, actor: User, piece: Piece, version: int, label: int, name: str) -> Piece:
    """Call the thing of this region otherwise."""
    sheet = piece.sheet()
    old = settings_of(sheet, [label])[label].thing
    if not old:
        raise ValidationError({"label": "This region stands for itself; give it a name of its own."})
    if name != old and any(one.thing == name for one in sheet.regions.settings.values()):
        raise ValidationError({"name": f"Another thing is called {name} already."})
    mates = sheet.regions.thing_mates(label)
    changed = {mate: replace(sheet.regions.settings[mate], thing=name) for mate in mates}
    what = f"{old} is called {name}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed))


def answer(*, actor: User, piece: Piece, version: int, labels: Sequence[int], alike: bool) -> Piece:
    """Say whether a group that Paleta is not sure of is one thing."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    group = set(labels)
    left = tuple(
        one for one in sheet.regions.unsure if not group >= {label for label in one if label in sheet.regions.settings}
    )
    if len(left) == len(sheet.regions.unsure):
        raise ValidationError({"labels": "This is no open question any more."})
    answered = sheet.with_part("regions", unsure=left)
    what = f"{words_for(settings)} are {'' if alike else 'not '}alike"
    if alike:
        answered, _ = _joined(answered, labels)
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=answered)


def find_things(*, actor: User, piece: Piece, version: int) -> Piece:
    """Propose bodies and things for the regions that have none."""
    sheet = piece.sheet()
    settings, unsure = proposed(weighed(piece, sheet), sheet.regions.settings)
    found = sheet.with_part("regions", unsure=unsure).with_regions(settings)
    count = len({one.thing for one in settings.values() if one.thing})
    return keep_step(actor=actor, piece=piece, version=version, what=f"Found {count} things", sheet=found)


def weighed(piece: Piece, sheet: Sheet) -> PairScores:
    """How likely the piece's regions belong together."""
    packed = store.fetch(map_sha256(piece.stamping, sheet))
    return worker.run(jobs.weigh_pairs, packed, piece.dpi, sheet.regions.edits, limit_s=WEIGH_LIMIT_S)


def _joined(sheet: Sheet, labels: Sequence[int]) -> tuple[Sheet, str]:
    """One thing of all these and of the thing of the first. What is open takes over the first one's ramp."""
    old = sheet.regions.settings
    first = old[labels[0]]
    whole = sorted({*labels, *sheet.regions.thing_mates(labels[0])})
    if len(whole) < 2:
        raise ValidationError({"labels": "Choose at least two regions to make one thing."})
    name = first.thing or new_name(old, whole)
    colours = {field: getattr(first, field) for field in ("coats", "wish_lab", "shades", "accents")}
    changed = {
        label: replace(old[label], thing=name, **({} if old[label].coats or not first.coats else colours))
        for label in whole
    }
    return sheet.with_regions(changed), name
