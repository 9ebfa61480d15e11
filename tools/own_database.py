"""A database and files of its own for a tool that works on the real program and leaves nothing behind."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


@contextmanager
def own_database() -> Iterator[Path]:
    """Django set up on an empty database in a folder that is removed at the end."""
    place = tempfile.mkdtemp(prefix="paleta-kills-")
    os.environ["PALETA_VAR"] = place
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
    import django

    django.setup()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    try:
        yield Path(place)
    finally:
        shutil.rmtree(place, ignore_errors=True)
