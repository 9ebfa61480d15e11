"""Results that are remembered while the server runs: bounded by bytes, and none made twice at once."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable, Mapping
from concurrent.futures import Future
from dataclasses import fields, is_dataclass
from typing import Any, TypeVar

import numpy as np
from cachetools import LRUCache
from django.conf import settings

Value = TypeVar("Value")
SMALL_BYTES = 64
"""What a number, a name or an empty container counts."""
SMALL = (int, float, type(None))
"""Asked for first, because most of what is counted is one of them."""


class Memory:
    """Values by key, least recently used ones going first once all together are larger than `most_bytes`."""

    def __init__(self, most_bytes: int) -> None:
        self._kept: LRUCache[Hashable, tuple[object, int]] = LRUCache(most_bytes, getsizeof=lambda item: item[1])
        self._making: dict[Hashable, Future[object]] = {}
        self._guard = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], Value]) -> Value:
        """The value kept under `key`, or what `make` gives; whoever asks meanwhile waits for the same result.

        If `make` fails, everybody who waits is told, and the next one to ask tries again.
        """
        with self._guard:
            kept = self._kept.get(key)
            if kept is not None:
                return kept[0]  # type: ignore[return-value]
            making = self._making.get(key)
            mine = making is None
            if making is None:
                making = self._making[key] = Future()
        if not mine:
            return making.result()  # type: ignore[return-value]
        try:
            value = make()
        except BaseException as error:
            with self._guard:
                self._making.pop(key, None)
            making.set_exception(error)
            raise
        with self._guard:
            size = bytes_of(value)
            if size <= self._kept.maxsize:
                self._kept[key] = (value, size)
            self._making.pop(key, None)
        making.set_result(value)
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
