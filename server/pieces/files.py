"""Pictures and maps as files named by their content."""

from __future__ import annotations

import hashlib
import os
import tempfile
from pathlib import Path

from django.conf import settings


class FileMissing(Exception):
    """A row names a file that is no longer in the media folder."""


def keep(data: bytes) -> str:
    """Store `data` once and return its SHA-256. The file appears whole or not at all."""
    name = hashlib.sha256(data).hexdigest()
    place = _place(name)
    if not place.exists():
        place.parent.mkdir(parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=place.parent, delete=False) as file:
            file.write(data)
        os.replace(file.name, place)
    return name


def fetch(name: str) -> bytes:
    """The bytes kept under a hash.

    Raises
    ------
    FileMissing
        If they are gone.
    """
    try:
        return _place(name).read_bytes()
    except FileNotFoundError as error:
        raise FileMissing(f"The media folder lacks {name}.") from error


def _place(name: str) -> Path:
    return Path(settings.MEDIA_ROOT) / name[:2] / name
