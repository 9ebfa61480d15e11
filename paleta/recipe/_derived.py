"""What follows from a sheet alone, worked out once."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

from paleta.recipe._sheet import Sheet

More = ParamSpec("More")
Value = TypeVar("Value")

_known: dict[int, dict[Any, Any]] = {}
"""By sheet, and by function and its further arguments. Sheets are told apart by what they are and not by what they
hold: comparing them would take longer than working it out."""


def once_per_sheet(work: Callable[Concatenate[Sheet, More], Value]) -> Callable[Concatenate[Sheet, More], Value]:
    """`work(sheet, ...)` is done once for each sheet and further arguments, and kept as long as the sheet is: a sheet
    never changes. Nobody may change what comes back.

    Parameters
    ----------
    work
        Takes a sheet first; further arguments can be hashed.
    """

    @wraps(work)
    def known_or_done(sheet: Sheet, /, *args: More.args, **more: More.kwargs) -> Value:
        own = _known.get(id(sheet))
        if own is None:
            own = _known.setdefault(id(sheet), {})
            weakref.finalize(sheet, _known.pop, id(sheet), None)
        key = (work, args, tuple(more.items()))
        if key not in own:
            own[key] = work(sheet, *args, **more)
        return own[key]

    return known_or_done
