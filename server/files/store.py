"""Pictures and maps as files named by their content."""

from __future__ import annotations

import hashlib
import os
import re
import tempfile
from collections.abc import Iterator
from pathlib import Path

from django.conf import settings

NAME = re.compile(r"[0-9a-f]{64}")


class FileMissing(Exception):
    """A row names a file that is no longer in the media folder."""


def keep(data: bytes) -> str:
    """Store `data` once and return its SHA-256. The file appears whole or not at all, and is on disk on return."""
    name = hashlib.sha256(data).hexdigest()
    place = place_of(name)
    if place.exists():
        # Young again, so that a sweep that began before this row was written leaves it alone.
        os.utime(place)
        return name
    place.parent.mkdir(parents=True, exist_ok=True)
    handle, half = tempfile.mkstemp(dir=place.parent, prefix=".")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(half, place)
    except BaseException:
        Path(half).unlink(missing_ok=True)
        raise
    _sync(place.parent)
    return name


def fetch(name: str) -> bytes:
    """The bytes kept under a hash.

    Raises
    ------
    FileMissing
        If they are gone.
    """
    try:
        return place_of(name).read_bytes()
    except FileNotFoundError as error:
        raise FileMissing(name) from error


def size_of(name: str) -> int:
    """Bytes kept under a hash, 0 if they are gone, or if it is none."""
    try:
        return place_of(name).stat().st_size
    except (FileNotFoundError, FileMissing):
        return 0


def all_files() -> Iterator[Path]:
    """Every file of the media folder, half-written ones too."""
    root = Path(settings.MEDIA_ROOT)
    for folder in sorted(root.iterdir()) if root.exists() else ():
        if folder.is_dir():
            yield from folder.iterdir()


def place_of(name: str) -> Path:
    if not NAME.fullmatch(name):
        raise FileMissing(name)
    return Path(settings.MEDIA_ROOT) / name[:2] / name


def _sync(folder: Path) -> None:
    """A new name is only safe once its folder is on disk too."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
