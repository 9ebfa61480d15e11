"""Heavy work in a process of its own: with a limit on time and memory, at most two at once, stopped if nobody waits.

A picture that somebody sent is never read by the process that serves everyone.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import threading
import time
from collections.abc import Callable, Iterator
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from django.conf import settings

from server.derived import jobs
from server.derived.jobs import TookTooLong, TookTooMuch
from server.derived.waiting import stop_if_nobody_waits

Made = TypeVar("Made")
TICK_S = 0.25
"""How often is looked whether anybody still waits."""


_room = threading.BoundedSemaphore(settings.HEAVY_AT_ONCE)


def run(work: Callable[..., Made], *values: Any, limit_s: float = 120.0, memory_mb: int = 900) -> Made:
    """`work(*values)` in a process of its own. `work` is a module's function, values and result can be pickled.

    Raises
    ------
    TookTooLong, TookTooMuch
        At the limit.
    NobodyWaits
        If the client went away meanwhile.
    Exception
        Whatever `work` raised.
    """
    limit = (memory_mb + jobs.ALWAYS_MB) * 2**20
    with _turn():
        ours, theirs = _context().Pipe()
        process = _context().Process(target=jobs.do, args=(theirs, limit, work, values), daemon=True)
        process.start()
        theirs.close()
        try:
            return _result(ours, time.monotonic() + limit_s)
        finally:
            ours.close()
            process.kill()
            process.join()


@contextlib.contextmanager
def _turn() -> Iterator[None]:
    while not _room.acquire(timeout=TICK_S):
        stop_if_nobody_waits()
    try:
        yield
    finally:
        _room.release()


def _result(pipe: Connection, until_s: float) -> Any:
    while not pipe.poll(TICK_S):
        if time.monotonic() > until_s:
            raise TookTooLong("This takes too long and was stopped. Try a smaller or simpler picture.")
        stop_if_nobody_waits()
    try:
        good, value = pipe.recv()
    except EOFError as error:
        raise TookTooMuch("This needs more memory than there is. Try a smaller or simpler picture.") from error
    if good:
        return value
    raise value


_guard = threading.Lock()
_made: list[Any] = []


def _context() -> Any:
    """Processes are forked from one that has the libraries loaded and nothing else: quick, and safe beside threads."""
    with _guard:
        if not _made:
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(["server.derived.preloaded"])
            _made.append(context)
        return _made[0]


def warm_up() -> None:
    """Have the libraries loaded before the first one waits."""
    run(jobs.nothing)
