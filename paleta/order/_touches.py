"""Finishing touches: what comes after the last pass, opaque and wet things last.

Order and waits are common practice (docs/trade-notes.md, section Finishing); to be replaced by the user's own times.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from paleta.errors import PlanImpossible
from paleta.media import MEDIUMS


@dataclass(frozen=True, slots=True)
class Touch:
    """One finishing touch. rank orders them; it takes `laying_s`, and then dries `dry_s` before the next. One that is
    not `chosen` by a person follows from the sheet."""

    code: str
    name: str
    how: str
    rank: float
    laying_s: float
    dry_s: float
    caution: str = ""
    chosen: bool = True


WIPE = "wipe line"
TOUCHES = {
    touch.code: touch
    for touch in (
        Touch("unmask", "Take off the masks", "lift them slowly, away from the figure", 0, 60, 0),
        Touch(
            WIPE, "Wipe the raised line", "a soft cloth along the line, until it shines as before", 0.5, 60, 0,
            chosen=False,
        ),
        Touch("pencil", "Pencil accents", "deepen creases with a pencil, small circles", 1, 240, 0),
        Touch("darks", "Dark accents", "touch the darkest pen to the deepest points only", 2, 120, 60),
        Touch(
            "splatter", "Splatter",
            "gouache with slightly more paint than water, flicked from a brush over scrap first", 3, 90, 600,
        ),
        Touch(
            "white pen", "White pen",
            "eye glints, rims on the lit side, dots on fruit; draw a dot on scrap to get it flowing", 4, 120, 120,
        ),
        Touch("glitter", "Glitter", "glue thinly, scatter, tap off over a tray", 5, 120, 1800,
              "Keep it from eyes and from small children."),
        Touch("gloss", "Gloss", "a drop from the middle outwards, no bubbles; do not touch it", 6, 120, 1800),
        Touch("gems", "Gems", "set with tweezers once everything is dry", 7, 90, 600,
              "Small parts: a choking hazard for small children."),
    )
}  # fmt: skip
NOT_WITH = {("gloss", "pencil"): "Gloss smears soft pencil: fix the pencil first, or leave gloss off it."}
DRY_BEFORE = {code: medium.finish_dry_s for code, medium in MEDIUMS.items()}
"""Seconds until the colouring is dry enough for what lies on top."""


@dataclass(frozen=True, slots=True)
class TouchStep:
    """A finishing touch in its place: `start_s` counts from the end of the colouring; `wait_s` idles before it."""

    code: str
    name: str
    how: str
    start_s: float
    end_s: float
    wait_s: float
    caution: str


def plan_touches(codes: Sequence[str], media: Sequence[str]) -> list[TouchStep]:
    """The chosen touches in their order with waits, on what was coloured in these media.

    Parameters
    ----------
    codes
        Keys of TOUCHES.
    media
        What they go on, keys of MEDIA.

    Raises
    ------
    PlanImpossible
        If one is unknown.
    """
    unknown = [code for code in codes if code not in TOUCHES]
    if unknown:
        raise PlanImpossible(f"A finishing touch is one of {', '.join(TOUCHES)}, not {unknown[0]!r}.")
    now, dry_at = 0.0, max(DRY_BEFORE[medium] for medium in media)
    steps = []
    for touch in sorted((TOUCHES[code] for code in set(codes)), key=lambda one: one.rank):
        wait = max(0.0, dry_at - now)
        start = now + wait
        now = start + touch.laying_s
        dry_at = now + touch.dry_s
        clashes = (NOT_WITH.get((touch.code, medium), "") for medium in media)
        caution = " ".join(filter(None, (touch.caution, *clashes)))
        steps.append(TouchStep(touch.code, touch.name, touch.how, start, now, wait, caution))
    return steps
