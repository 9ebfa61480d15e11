"""What every part of the sheet has in common."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from paleta.errors import RecipeError
from paleta.fields import check_fields

if TYPE_CHECKING:
    from paleta.recipe._sheet import Sheet


class Part:
    """One numbered section of the sheet: its fields, their checks, their plain form, and the words for what changed."""

    __slots__ = ()

    def __post_init__(self) -> None:
        check_fields(self, RecipeError)

    def changes_from(self, old: Any, before: Sheet, after: Sheet) -> list[str]:
        """Sentences for what differs from the same part of an older sheet, out of the whole sheets."""
        raise NotImplementedError
