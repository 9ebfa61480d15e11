"""Results on disk that can be made again: they survive a restart, and the oldest go when there are too many."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Callable
from pathlib import Path

from django.conf import settings


class DiskCache:
    """Bytes by key in a folder of their own below the cache folder; at most about `most` files."""

    def __init__(self, name: str, most: int) -> None:
        self._name, self._most = name, most

    def get(self, key: str, make: Callable[[], bytes]) -> bytes:
        """The bytes kept under `key`, made and kept now if there are none."""
        place = self._folder() / hashlib.sha256(key.encode()).hexdigest()
        try:
            data = place.read_bytes()
            os.utime(place)  # the oldest use goes first, not the oldest file
            return data
        except FileNotFoundError:
            pass
        data = make()
        with tempfile.NamedTemporaryFile(dir=place.parent, prefix=".", delete=False) as file:
            file.write(data)
        os.replace(file.name, place)
        self._drop_oldest()
        return data

    def _folder(self) -> Path:
        folder = Path(settings.CACHE_ROOT) / self._name
        folder.mkdir(parents=True, exist_ok=True)
        return folder

    def _drop_oldest(self) -> None:
        kept = [(entry.stat().st_mtime, entry.path) for entry in os.scandir(self._folder())]
        # A tenth more than wanted may gather, so that not every new file sorts the folder.
        if len(kept) > self._most * 1.1:
            for _, path in sorted(kept)[: len(kept) - self._most]:
                Path(path).unlink(missing_ok=True)
