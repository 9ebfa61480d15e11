"""All media by their codes, in the order of lists: each is described in a module of its own (CODES)."""

from __future__ import annotations

from importlib import import_module

from paleta.media._codes import CODES
from paleta.media._medium import Medium


def _described(code: str) -> Medium:
    medium: Medium = import_module(f"paleta.media.{code}").MEDIUM
    if medium.code != code:
        raise ValueError(f"paleta/media/{code}.py describes {medium.code!r}.")
    return medium


MEDIUMS: dict[str, Medium] = {one.code: one for one in sorted(map(_described, CODES), key=lambda one: one.rank)}
MEDIA: dict[str, str] = {code: medium.name for code, medium in MEDIUMS.items()}
"""Names by code."""
