"""Finishing touches, and what is to be remembered of them."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.fields import Choice, Many, Text, holds
from paleta.order import TOUCHES
from paleta.recipe._part import Part

TOUCH_NAMES = {code: touch.name for code, touch in TOUCHES.items() if touch.chosen}


def _named(touches: tuple[str, ...]) -> str:
    return ", ".join(TOUCH_NAMES[code].lower() for code in touches) or "none"


@dataclass(frozen=True, slots=True, kw_only=True)
class Finish(Part):
    """touches by code (paleta.order.TOUCHES); notes in the user's words."""

    touches: tuple[str, ...] = holds(
        Many(Choice(TOUCH_NAMES), 12, once=True), (), said=lambda touches: f"finishing touches: {_named(touches)}"
    )
    notes: str = holds(Text(2000), "", said=lambda _: "Noted the finish")

    def changes_from(self, old: Finish, *_settings: object) -> list[str]:
        lines = []
        if old.touches != self.touches:
            lines.append(f"Finishing touches: {_named(self.touches)} now.")
        if old.notes != self.notes:
            lines.append(f'Finish: "{old.notes or "nothing"}" became "{self.notes or "nothing"}".')
        return lines
