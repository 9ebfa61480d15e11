"""Housekeeping: what lies in `var/` and serves nobody any more."""

from __future__ import annotations

from dataclasses import dataclass
from importlib import import_module
from pathlib import Path

from django.conf import settings
from django.db import connection

from server.accounts import visits
from server.backup import holding, jobs
from server.backup.storage import note_tidied
from server.files import spare
from server.files.sweep import sweep
from server.pieces.quota import recount_all

EMPTY_SHARE, EMPTY_PAGES = 0.25, 2000
"""The database is written anew once so much of it is empty; before that it would cost more than it gives."""


@dataclass(frozen=True, slots=True)
class Tidied:
    """How many pictures, files of restores, sessions and visitors' copies of the demo went, how many pieces had been
    counted wrong, and by how many bytes the database shrank."""

    pictures: int
    restores: int
    sessions: int
    visits: int
    recounted: int
    database_bytes: int


def tidy(*, by_the_server: bool) -> Tidied:
    """Remove visitors' copies of the demo that nobody uses, pictures that nothing refers to, files of restores that
    were broken off, sessions that ended, and the empty part of the database. Safe beside a running server too."""
    restores = jobs.sweep_files(older_than_s=0.0 if by_the_server else jobs.KEPT_S) + holding.sweep()
    # Copies go first: their own pictures are then nobody's.
    left = visits.sweep()
    tidied = Tidied(sweep(), restores, _clear_sessions(), left, recount_all(), _shrink())
    spare.fill()
    note_tidied(tidied)
    return tidied


def _clear_sessions() -> int:
    store = import_module(settings.SESSION_ENGINE).SessionStore
    sessions = store.get_model_class().objects
    before = sessions.count()
    store.clear_expired()
    return int(before - sessions.count())


def _shrink() -> int:
    place = Path(str(connection.settings_dict["NAME"]))
    with connection.cursor() as cursor:
        pages, empty = (cursor.execute(f"PRAGMA {name}").fetchone()[0] for name in ("page_count", "freelist_count"))
        if connection.in_atomic_block or empty < EMPTY_PAGES or empty < EMPTY_SHARE * pages:
            return 0
        before = place.stat().st_size
        cursor.execute("VACUUM")
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return max(0, before - place.stat().st_size)
