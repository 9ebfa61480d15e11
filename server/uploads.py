"""Files that users send."""

from typing import Any

from django.conf import settings

from server.problems import TooLarge


def uploaded(file: Any) -> bytes:
    """The bytes of an upload, refused before they are read if there are too many."""
    if file.size > settings.LARGEST_UPLOAD_BYTES:
        most = settings.LARGEST_UPLOAD_BYTES / 1e6
        raise TooLarge(f"The file has {file.size / 1e6:.0f} MB; {most:.0f} MB are the most.")
    return file.read()
