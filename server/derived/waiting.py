"""Who waits for a piece of work. It is stopped once all of them have left, and no sooner."""

from __future__ import annotations

import contextlib
import contextvars
from collections.abc import Callable, Iterator


class NobodyWaits(Exception):
    """Whoever asked has gone."""


_gone: contextvars.ContextVar[Callable[[], bool]] = contextvars.ContextVar("gone", default=lambda: False)


@contextlib.contextmanager
def waited_for_by(gone: Callable[[], bool]) -> Iterator[None]:
    """Work begun inside is stopped once `gone` says that the client has left."""
    token = _gone.set(gone)
    try:
        yield
    finally:
        _gone.reset(token)


def client() -> Callable[[], bool]:
    """Says whether the client that the running code works for has left."""
    return _gone.get()


def stop_if_nobody_waits() -> None:
    """Raise NobodyWaits if the client has left."""
    if _gone.get()():
        raise NobodyWaits
