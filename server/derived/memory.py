"""Results that are remembered while the server runs: bounded by bytes, and none made twice at once."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable, Mapping
from concurrent.futures import Future, wait
from dataclasses import dataclass, field, fields, is_dataclass
from typing import Any, TypeVar

import numpy as np
from cachetools import LRUCache
from django.conf import settings

from server.derived.waiting import NobodyWaits, client, stop_if_nobody_waits, waited_for_by

Value = TypeVar("Value")
SMALL_BYTES = 64
"""What a number, a name or an empty container counts."""
TICK_S = 0.25
"""How often whoever waits looks whether its client is still there."""
SMALL = (int, float, type(None))
"""Asked for first, because most of what is counted is one of them."""


@dataclass(slots=True, eq=False)
class _Making:
    """A value that is being made, and those who wait for it."""

    clients: list[Callable[[], bool]]
    future: Future[object] = field(default_factory=Future)

    def all_left(self) -> bool:
        return all(left() for left in tuple(self.clients))

    def result(self) -> object:
        """What is being made, once it is there. NobodyWaits if one's own client leaves before that."""
        while not wait([self.future], timeout=TICK_S).done:
            stop_if_nobody_waits()
        return self.future.result()


class Memory:
    """Values by key, least recently used ones going first once all together are larger than `most_bytes`."""

    def __init__(self, most_bytes: int) -> None:
        self._kept: LRUCache[Hashable, tuple[object, int]] = LRUCache(most_bytes, getsizeof=lambda item: item[1])
        self._making: dict[Hashable, _Making] = {}
        self._guard = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], Value], *, size: int | None = None) -> Value:
        """The value kept under `key`, or what `make` gives; whoever asks meanwhile waits for the same result.

        If `make` fails, everybody who waits is told, and the next one to ask tries again. It goes on for as long as one
        of those who asked still waits, whoever asked first. `size` is about how many bytes the value holds; where
        nothing is said it is counted, which takes a while for what has very many parts.

        Raises
        ------
        NobodyWaits
            If the client of whoever asks has left meanwhile.
        """
        while True:
            with self._guard:
                kept = self._kept.get(key)
                if kept is not None:
                    return kept[0]  # type: ignore[return-value]
                making = self._making.get(key)
                if making is None:
                    mine = self._making[key] = _Making([client()])
                    break
                making.clients.append(client())
            try:
                return making.result()  # type: ignore[return-value]
            except NobodyWaits:
                # It was given up in the moment between the last client's leaving and this one's coming.
                stop_if_nobody_waits()
        try:
            with waited_for_by(mine.all_left):
                value = make()
        except BaseException as error:
            with self._guard:
                self._making.pop(key, None)
            mine.future.set_exception(error)
            raise
        with self._guard:
            held = bytes_of(value) if size is None else size
            if held <= self._kept.maxsize:
                self._kept[key] = (value, held)
            self._making.pop(key, None)
        mine.future.set_result(value)
        return value

    def peek(self, key: Hashable) -> object | None:
        """The value if it is kept, else None; nothing is made."""
        with self._guard:
            kept = self._kept.get(key)
        return kept[0] if kept is not None else None

    def clear(self) -> None:
        with self._guard:
            self._kept.clear()

    @property
    def held_bytes(self) -> int:
        return int(self._kept.currsize)


def bytes_of(value: Any) -> int:
    """About how much memory a value holds: arrays and bytes by their length, the rest by counting."""
    if isinstance(value, SMALL):
        return SMALL_BYTES
    if isinstance(value, np.ndarray):
        return value.nbytes + SMALL_BYTES
    if isinstance(value, bytes | str):
        return len(value) + SMALL_BYTES
    if is_dataclass(value) and not isinstance(value, type):
        held = [getattr(value, one.name) for one in fields(value)]
        return SMALL_BYTES + sum(bytes_of(one) for one in held)
    if isinstance(value, Mapping):
        return SMALL_BYTES + sum(bytes_of(key) + bytes_of(one) for key, one in value.items())
    if isinstance(value, list | tuple | set | frozenset):
        return SMALL_BYTES + sum(bytes_of(one) for one in value)
    return SMALL_BYTES


memory = Memory(settings.MEMORY_BYTES)
"""The one memory of the process: everything that is derived shares its room."""
