"""How a card is folded from its sheet: one description for every fold."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import accumulate

from paleta.card._length import Length

HALF = Fraction(1, 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fold:
    """A way to fold a sheet to a card of one size; all are common practice.

    name, said  as one chooses it, and as a record says it.
    pages       widths of the parts between the scores, from inside and from the left (or the top), as shares of the
                folded card's; the first of a card that is folded once is its front.
    down        whether the scores run from top to bottom.
    """

    code: str
    name: str
    said: str
    pages: tuple[Fraction, ...]
    down: bool = True

    @property
    def once(self) -> bool:
        """Folded once: its front may be shorter than its back."""
        return len(self.pages) == 2

    @property
    def turned(self) -> str:
        """The fold of the same card lying the other way; one that has no such fold stays as it is."""
        return {"side": "top", "top": "side"}.get(self.code, self.code)

    @property
    def thickness(self) -> int:
        """How many sheets lie over each other when it is folded."""
        whole = sum(1 for page in self.pages if page == 1)
        return whole + (1 if whole < len(self.pages) else 0)

    def parts(self, width: Length, height: Length, shorter: Length) -> tuple[Length, ...]:
        """Lengths of the pages of a card of this size, whose front is so much shorter than its back."""
        side = width if self.down else height
        parts = [side * page for page in self.pages]
        if self.once:
            parts[0] = parts[0] - shorter
        return tuple(parts)

    def scores(self, width: Length, height: Length, shorter: Length) -> tuple[Length, ...]:
        """Where the sheet is scored, from its left or top edge."""
        return tuple(accumulate(self.parts(width, height, shorter)[:-1]))

    def open_size(self, width: Length, height: Length, shorter: Length) -> tuple[Length, Length]:
        """Width and height of the sheet."""
        *_, across = accumulate(self.parts(width, height, shorter))
        return (across, height) if self.down else (width, across)


ONE = Fraction(1)
FOLDS = {
    fold.code: fold
    for fold in (
        Fold(code="side", name="Fold at the side", said="folded at the side", pages=(ONE, ONE)),
        Fold(code="top", name="Fold at the top", said="folded at the top", pages=(ONE, ONE), down=False),
        Fold(code="gate", name="Gate: two flaps that meet", said="gate fold", pages=(HALF, ONE, HALF)),
        Fold(code="z", name="Z: three pages", said="Z fold, three pages", pages=(ONE,) * 3),
        Fold(code="accordion", name="Accordion: four pages", said="accordion fold, four pages", pages=(ONE,) * 4),
        Fold(code="flat", name="One layer, no fold", said="one layer", pages=(ONE,)),
    )
}
