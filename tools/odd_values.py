"""Values that nobody should send, and how to put them anywhere in JSON."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from typing import Any

ODD = (
    None, True, -1, 0, 10**30, 1e308, float("nan"), "", "\x00", "\ud800", "²", "🖍" * 3000, "NaN",
    [], [None], [[[]]], {}, {"a": []},
)  # fmt: skip


def leaves(body: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """The way to every value in a body, and to the body itself."""
    yield path
    inner = body.items() if isinstance(body, dict) else enumerate(body) if isinstance(body, list) else ()
    for key, value in inner:
        yield from leaves(value, (*path, key))


def with_value(body: Any, path: tuple[Any, ...], value: Any) -> Any:
    if not path:
        return value
    changed = copy.deepcopy(body)
    place = changed
    for key in path[:-1]:
        place = place[key]
    place[path[-1]] = value
    return changed
