"""The small contract behind the backup: every app that keeps things of a user dumps and restores its own.

An app has a module `backup.py` with `SECTION`. A test fails when a model that belongs to a user is in no section.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db.models import ForeignKey, JSONField, Model

JsonRow = dict[str, Any]


class LeftOut(Exception):
    """A line points at one whose file was gone when the backup was made, or that was deleted meanwhile, so it is left
    out with it."""


@dataclass
class Restoring:
    """What a restore has in hand: whose account, and which new row each old one became.

    What the `owner` has already is looked for there; what is made belongs to the `holder` until all of it is there, so
    that the database is never locked for long and the owner gets all or nothing. `homes` maps (section, number of a
    line) to the key of the row it became, made anew or found as it was already; None where a file that it needs was
    gone when the backup was made. `made`, `known` and `left_out` count by section; `undo` takes back what had to be
    added to rows that the owner has already.
    """

    owner: User
    holder: User
    models: dict[str, type[Model]]
    homes: dict[tuple[str, int], int | None] = field(default_factory=dict)
    undo: list[Callable[[], None]] = field(default_factory=list)
    made: dict[str, int] = field(default_factory=dict)
    known: dict[str, int] = field(default_factory=dict)
    left_out: dict[str, int] = field(default_factory=dict)

    def home(self, section: str, number: int) -> Any:
        """The row that a line of another section became.

        Raises
        ------
        LeftOut
            If that line was left out.
        KeyError
            If the backup names one that it does not hold.
        """
        key = self.homes[section, number]
        model = self.models[section]
        # Sheets, plans and logs are large, and no other row needs them.
        heavy = [one.name for one in model._meta.concrete_fields if isinstance(one, JSONField)]
        row = None if key is None else model._base_manager.defer(*heavy).filter(pk=key).first()
        if row is None:
            raise LeftOut
        return row


@dataclass(frozen=True)
class Section:
    """Rows of one app as lines of JSON.

    name     of the file in the backup.
    models   whose rows the section holds; every model that belongs to a user is in one section.
    after    sections that must be restored before, since lines of this one point at theirs.
    dump     lines, each with its own `number`, and the names of the files it needs under `files`.
    needs_files  whether a row is nothing without its files; else it comes back though one was gone.
    most     rows of the first model that an account may have; None where other limits serve.
    restore  makes a row from a line, or gives the one that is there already; (row, whether it was made).
    """

    name: str
    models: tuple[type[Model], ...]
    dump: Callable[[User], Iterator[JsonRow]]
    restore: Callable[[Restoring, JsonRow], tuple[Model, bool]]
    after: tuple[str, ...] = ()
    needs_files: bool = True
    most: int | None = None


def check(row: Model) -> None:
    """Raise ValidationError if a row could not have been made by hand.

    What is inside of JSON is the section's own to check; to Django an empty list, or none where none may be, is a
    field that a form left out.
    """
    fields = row._meta.concrete_fields
    own = {one.name for one in fields if isinstance(one, ForeignKey | JSONField)}
    row.full_clean(exclude=own | {one.name for one in fields if one.null and getattr(row, one.name) is None})
    for one in fields:
        value = getattr(row, one.attname)
        # Django lets a field be None that may be blank, and takes "1e999" for a number.
        if value is None and not one.null and not one.primary_key and one.editable:
            raise ValidationError(f"{one.name} is nothing.")
        if isinstance(value, float) and not math.isfinite(value):
            raise ValidationError(f"{one.name} is no finite number.")


def in_order(sections: Iterable[Section]) -> list[Section]:
    """Sections so that each comes after those it points at."""
    waiting = sorted(sections, key=lambda one: one.name)
    placed: list[Section] = []
    while waiting:
        ready = [one for one in waiting if set(one.after) <= {other.name for other in placed}]
        if not ready:
            raise AssertionError(f"Sections wait for each other: {', '.join(one.name for one in waiting)}.")
        placed += ready
        waiting = [one for one in waiting if one not in ready]
    return placed
