"""The card that the picture goes on."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.card import CardSpec, said_of_card
from paleta.fields import Maybe, Record, Text, holds
from paleta.recipe._part import Part


@dataclass(frozen=True, slots=True, kw_only=True)
class Card(Part):
    """spec: sizes, layers, greeting and how it is made, None until its base is chosen; notes: in the user's words."""

    spec: CardSpec | None = holds(Maybe(Record(CardSpec)), None, said=lambda spec: f"The card: {said_of_card(spec)}")
    notes: str = holds(Text(2000), "", said=lambda _: "Noted the card")

    def changes_from(self, old: Card, *_settings: object) -> list[str]:
        lines = []
        if old.spec != self.spec:
            before, now = said_of_card(old.spec), said_of_card(self.spec)
            unsaid = "Card: places, papers or the order of making changed."
            lines.append(f"Card: {before} became {now}." if before != now else unsaid)
        if old.notes != self.notes:
            lines.append(f'Card: "{old.notes or "nothing"}" became "{self.notes or "nothing"}".')
        return lines
