"""Work that nobody waits for, one after the other."""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from django.conf import settings
from django.db import connections

log = logging.getLogger(__name__)
_hand = ThreadPoolExecutor(max_workers=1, thread_name_prefix="later")


def do(work: Callable[..., None], *values: Any) -> None:
    """Do it after what was asked for before; at once where settings.LATER_AT_ONCE says so, as in tests."""
    if settings.LATER_AT_ONCE:
        work(*values)
    else:
        _hand.submit(_quietly, work, values)


def _quietly(work: Callable[..., None], values: tuple[Any, ...]) -> None:
    try:
        work(*values)
    except Exception:
        log.exception("Later work failed: %s%s", work.__name__, values)
    finally:
        connections.close_all()
