"""Results on disk that can be made again: they outlast a restart, the least recently used go first."""

from __future__ import annotations

import contextlib
import sqlite3
from collections.abc import Callable
from functools import cache

from diskcache import Cache
from django.conf import settings

from server.derived.memory import memory


def kept(kind: str, key: str, make: Callable[[], bytes]) -> bytes:
    """The bytes kept under `key`, made and kept now if there are none, and never twice at once."""
    name = f"{kind} {key}"
    found = peek(kind, key)
    if found is not None:
        return found

    def made() -> bytes:
        data = make()
        # A full disk costs the next one the making, but not this one the result.
        with contextlib.suppress(OSError, sqlite3.Error):
            _cache(settings.CACHE_ROOT).set(name, data)
        return data

    # Who waits for the same key waits in memory; the bytes stay there no longer than anything else.
    return memory.get(("disk", str(settings.CACHE_ROOT), name), made)


def peek(kind: str, key: str) -> bytes | None:
    """The bytes if they are kept; nothing is made."""
    # Reading notes when it was done, which a full disk does not take: then the bytes are made again.
    with contextlib.suppress(OSError, sqlite3.Error):
        found: bytes | None = _cache(settings.CACHE_ROOT).get(f"{kind} {key}")
        return found
    return None


@cache
def _cache(folder: object) -> Cache:
    return Cache(str(folder), size_limit=settings.CACHE_BYTES, eviction_policy="least-recently-used")
