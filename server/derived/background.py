"""Work that nobody waits for, one after the other in each of its lanes."""

from __future__ import annotations

import logging
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from django.conf import settings
from django.db import connections

log = logging.getLogger(__name__)
LANES = {"usual": 1, "restores": 2}
"""What may take long has a lane of its own, so that nothing short waits behind it; how many go on at once in each."""
_hands = {lane: ThreadPoolExecutor(count, thread_name_prefix=lane) for lane, count in LANES.items()}


def do(work: Callable[..., None], *values: Any, lane: str = "usual") -> None:
    """Do it after what was asked for before in its lane; at once where settings.LATER_AT_ONCE says so, as in tests."""
    if settings.LATER_AT_ONCE:
        work(*values)
    else:
        _hands[lane].submit(_quietly, work, values)


def _quietly(work: Callable[..., None], values: tuple[Any, ...]) -> None:
    try:
        work(*values)
    except Exception:
        log.exception("Later work failed: %s%s", work.__name__, values)
    finally:
        connections.close_all()
