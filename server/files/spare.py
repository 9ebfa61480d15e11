"""A file that only takes room, so that a full disk still has some for signing in and out.

Everything else that writes is told that the disk is full; reading needs no room. Housekeeping fills the file again.
"""

from __future__ import annotations

import errno
import os
import shutil
import sqlite3
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from django.conf import settings
from django.db import DatabaseError

SPARE_BYTES, GIVEN_BYTES = 16_000_000, 500_000
"""So much is held back, and so much of it given at a time: some thirty people sign in."""
NO_ROOM_BYTES = 1_000_000
"""A disk with less is full, whatever words the database finds for it."""
OUT_OF_ROOM = (errno.ENOSPC, errno.EDQUOT)
Made = TypeVar("Made")


def is_full(error: BaseException) -> bool:
    """Whether an error comes from a disk without room."""
    if isinstance(error, OSError):
        return error.errno in OUT_OF_ROOM
    if not isinstance(error, DatabaseError | sqlite3.Error):
        return False
    return "disk is full" in str(error) or shutil.disk_usage(settings.VAR_DIR).free < NO_ROOM_BYTES


def fill() -> None:
    """Hold the spare room back, as far as the disk has it without becoming full."""
    place = _place()
    held = place.stat().st_size if place.exists() else 0
    if held >= SPARE_BYTES or shutil.disk_usage(place.parent).free < 2 * SPARE_BYTES:
        return
    with place.open("ab") as file:
        # Not a hole: what is to be given must have been taken.
        os.posix_fallocate(file.fileno(), 0, SPARE_BYTES)


def with_spare(work: Callable[[], Made]) -> Made:
    """What `work` gives; done again in some of the spare room if the disk is full. What it did not finish must leave
    nothing behind."""
    try:
        return work()
    except (OSError, DatabaseError, sqlite3.Error) as error:
        if not is_full(error) or not _give():
            raise
    return work()


def _give() -> bool:
    place = _place()
    held = place.stat().st_size if place.exists() else 0
    if held < GIVEN_BYTES:
        return False
    os.truncate(place, held - GIVEN_BYTES)
    return True


def _place() -> Path:
    return Path(settings.VAR_DIR) / "spare"
