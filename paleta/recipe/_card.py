"""The card that the picture goes on."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.fields import Text, holds
from paleta.recipe._part import Part


@dataclass(frozen=True, slots=True, kw_only=True)
class Card(Part):
    """notes on size, paper and layers, in the user's words."""

    notes: str = holds(Text(2000), "", said=lambda _: "Noted the card")

    def changes_from(self, old: Card, *_settings: object) -> list[str]:
        return [] if old == self else [f'Card: "{old.notes or "nothing"}" became "{self.notes or "nothing"}".']
