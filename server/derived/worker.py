"""Heavy work in processes of its own: with limits of time and memory, at most two at once, stopped if nobody waits.

A picture that somebody sent is never read by the process that serves everyone. Each process does one piece of work and
is gone, so that nothing of it stays behind.
"""

from __future__ import annotations

import atexit
import math
import multiprocessing
import signal
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as NotYet
from typing import Any, TypeVar

from django.conf import settings
from pebble import ProcessExpired, ProcessPool

from server.derived import jobs
from server.derived.jobs import TookTooLong, TookTooMuch
from server.derived.waiting import stop_if_nobody_waits

Made = TypeVar("Made")
TICK_S = 0.25
"""How often is looked whether anybody still waits."""
WALL_TIMES = 10
"""Limits are of processor time, which a busy machine does not use up; after so many times that, it hangs."""
TOO_LONG = "This takes too long and was stopped. Try a smaller or simpler picture."
TOO_MUCH = "This needs more memory than there is. Try a smaller or simpler picture."


def run(work: Callable[..., Made], *values: Any, limit_s: float = 120.0, memory_mb: int = 900) -> Made:
    """`work(*values)` in a process of its own. `work` is a module's function, values and result can be pickled.

    Parameters
    ----------
    limit_s : float
        Of the processor's time, in whole seconds at least; waiting for a turn does not count.
    memory_mb : int
        Beside what every process holds.

    Raises
    ------
    TookTooLong, TookTooMuch
        At the limit.
    NobodyWaits
        If the client went away meanwhile.
    Exception
        Whatever `work` raised.
    """
    limits = ((memory_mb + jobs.ALWAYS_MB) * 2**20, math.ceil(limit_s))
    future = _pool().schedule(jobs.do, args=(*limits, work, values), timeout=limit_s * WALL_TIMES)
    with _guard:
        _in_line.add(future)
    try:
        while True:
            try:
                return future.result(TICK_S)
            except NotYet:
                # The pool says so too, of what it stopped at its limit; the answer may also have come just now.
                if future.done() and isinstance(future.exception(), NotYet):
                    raise TookTooLong(TOO_LONG) from None
                stop_if_nobody_waits()
    except ProcessExpired as error:
        if error.exitcode == -signal.SIGXCPU:
            raise TookTooLong(TOO_LONG) from error
        raise TookTooMuch(TOO_MUCH) from error
    finally:
        future.cancel()  # type: ignore[no-untyped-call]
        with _guard:
            _in_line.discard(future)


def in_line() -> int:
    """How many pieces of work are under way or wait for their turn."""
    with _guard:
        return len(_in_line)


_guard = threading.Lock()
_pools: list[ProcessPool] = []
_in_line: set[Any] = set()


def _pool() -> ProcessPool:
    """Processes are forked from one that has the libraries loaded and nothing else: quick, and safe beside threads.

    A pool that broke, whatever broke it, is followed by a new one.
    """
    with _guard:
        if not _pools or not _pools[0].active:
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(["server.derived.preloaded"])
            _pools[:] = [ProcessPool(max_workers=settings.HEAVY_AT_ONCE, max_tasks=1, context=context)]
        return _pools[0]


@atexit.register
def _stop() -> None:
    """Or a process that is begun while this one ends finds nothing of it any more, and says so at length."""
    for pool in _pools:
        pool.stop()  # type: ignore[no-untyped-call]
        pool.join()


def warm_up() -> None:
    """Have the libraries loaded before the first one waits."""
    run(jobs.nothing)
