"""What every part of the sheet has in common."""

from __future__ import annotations

from typing import Any

from paleta.errors import RecipeError
from paleta.fields import check_fields
from paleta.recipe._region import Settings


class Part:
    """One numbered section of the sheet: its fields, their checks, their plain form, and the words for what changed."""

    __slots__ = ()

    def __post_init__(self) -> None:
        check_fields(self, RecipeError)

    def changes_from(self, old: Any, before: Settings, after: Settings) -> list[str]:
        """Sentences for what differs from the same part of an older sheet, and what its regions were and are."""
        raise NotImplementedError
