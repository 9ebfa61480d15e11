"""The demo's cards: sizes, papers and greetings of the pieces on the shelf. Invented, like all of it."""

from __future__ import annotations

from collections.abc import Iterable

from paleta.card import Base, CardLayer, CardSpec, CutOut, Greeting, Inside, Panel, Stock, inches, millimetres
from paleta.recipe import Sheet

WIDE, HIGH = inches("17/4"), inches("11/2")
"""A note card."""
MAT = inches("1/8")


def _letter(name: str, colour: str, gsm: float, owned: int) -> Stock:
    return Stock(name=name, width=inches("17/2"), height=inches(11), grain="long", gsm=gsm, colour=colour, owned=owned)


def _cut_out(sheet: Sheet, names: Iterable[str]) -> tuple[CutOut, ...]:
    """Of these things those that were found."""
    settings = sheet.regions.settings
    found = []
    for name in names:
        labels = tuple(label for label, one in settings.items() if name in (one.thing, one.name))
        if labels:
            found.append(CutOut(name=name, regions=labels, margin=millimetres(1), foam=millimetres(2)))
    return tuple(found)


def card_for(drawing: str, sheet: Sheet) -> CardSpec | None:
    """The card that goes with a drawing; none for those that are still to be coloured."""
    if drawing == "balloon":
        return CardSpec(
            base=Base(width=WIDE, height=HIGH, stock="White card"),
            mats=(CardLayer(reveal=MAT, stock="Brick paper"),),
            panel=Panel(reveal=MAT),
            greeting=Greeting(
                text="Up and away", width=inches("5/2"), height=inches("1/2"), x=inches("7/8"), y=inches("71/16"),
                stock="White card",
            ),
            inside=Inside(text="Wherever the wind goes,\nmay it bring you home.", stock="White card"),
            cutouts=_cut_out(sheet, ("Sun",)),
            envelope="note",
            stock=(_letter("White card", "#f6f5f1", 300, 10), _letter("Brick paper", "#c0523f", 160, 4)),
            cards=4,
        )  # fmt: skip
    if drawing == "succulents":
        return CardSpec(
            base=Base(width=HIGH, height=WIDE, fold="top", stock="Cream card"),
            mats=(CardLayer(reveal=MAT, stock="Sea green paper"),),
            panel=Panel(reveal=MAT, foam=millimetres(1)),
            greeting=Greeting(
                text="Grow slowly", width=inches("7/4"), height=inches("1/2"), x=inches("7/16"), y=inches("5/8"),
                strip=False, colour="#3d5a4c",
            ),
            stock=(_letter("Cream card", "#f3ecd8", 280, 12), _letter("Sea green paper", "#5f9c8d", 160, 2)),
            envelope="note",
            cards=6,
        )  # fmt: skip
    if drawing == "pangolin":
        return CardSpec(
            base=Base(width=WIDE, height=HIGH, stock="Kraft card"),
            panel=Panel(reveal=MAT),
            greeting=Greeting(
                text="Look up", width=inches("3/2"), height=inches("1/2"), x=inches("1/2"), y=inches("5/4"),
                strip=False, embossed=True, colour="#ffffff",
            ),
            inside=Inside(text="Same moon, your side.", panel=True, stock="Cream card"),
            stock=(_letter("Kraft card", "#b08d62", 280, 6), _letter("Cream card", "#f3ecd8", 280, 6)),
            envelope="note",
        )  # fmt: skip
    return None
