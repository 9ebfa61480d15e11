"""What lies on what: the card from the side, and how thick it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from paleta.card._folds import FOLDS
from paleta.card._length import ZERO, Length
from paleta.card._picture import Place
from paleta.card._plan import CardPlan, PlacedLayer
from paleta.card._spec import CardSpec
from paleta.order import TOUCHES

MICRONS_PER_GSM = Fraction(13, 10)
"""Thickness of card by its weight. From memory, common practice: 300 g/m2 is about 0.4 mm."""
UNKNOWN_GSM = 280
GEMS_MM = Fraction(3)
"""Height of small gems. From memory."""


@dataclass(frozen=True, slots=True)
class Slab:
    """One piece as the card is seen from its lower edge: how high it begins, how thick it is, whether it is foam."""

    name: str
    place: Place
    stock: str
    lift: Length
    thick: Length
    foam: bool = False


def stack(plan: CardPlan) -> list[Slab]:
    """Everything on top of each other, from the table up: back, inside, front, layers, greeting strip, cut-outs."""
    spec, base = plan.spec, plan.layers[0]
    slabs: list[Slab] = []
    lift = ZERO

    def lay(name: str, laid: PlacedLayer, foam_place: Place | None = None) -> None:
        nonlocal lift
        if laid.foam:
            under = f"Foam under {name.lower()}"
            slabs.append(Slab(under, foam_place or laid.place, "", lift, laid.foam, foam=True))
            lift += laid.foam
        # The picture, and what is cut out of a second one, are on what was stamped unless other sheets are named.
        stamped = laid.kind in ("panel", "cut-out") and not laid.stock
        thick = paper_thickness(plan.stamped_gsm) if stamped else _paper(spec, laid.stock)
        slabs.append(Slab(name, laid.place, laid.stock, lift, thick))
        lift += thick

    behind = PlacedLayer("base", "Back", Place(ZERO, ZERO, spec.base.width, spec.base.height), base.stock, ZERO)
    for number in range(FOLDS[spec.base.fold].thickness - 1):
        lay("Page" if number else "Back", behind)
    if plan.inside is not None:
        lay(plan.inside.name, plan.inside)
    beneath = {foam.name: foam.place for foam in plan.foams}
    for laid in plan.layers:
        name = "Front" if laid.kind == "base" else laid.name
        lay(name, laid, beneath.get(laid.name))
    strip = plan.greeting if spec.greeting is not None and spec.greeting.strip else None
    top = lift
    for one in (*([strip] if strip else []), *plan.raised):
        lift = top
        lay(one.name, one)
    return slabs


def _paper(spec: CardSpec, stock: str) -> Length:
    known = spec.stock_named(stock)
    return paper_thickness(known.gsm if known else 0)


def paper_thickness(gsm: float) -> Length:
    """How thick a card of this weight is, to a hundredth of a millimetre."""
    microns = Fraction(gsm or UNKNOWN_GSM) * MICRONS_PER_GSM
    return Length(Fraction(round(microns / 10), 100))


def thickness_of(plan: CardPlan, touches: Sequence[str]) -> Length:
    """At its thickest place. Cut-outs count even where it is not known where they stand, and gems may sit on them.

    Parameters
    ----------
    plan
        the laid-out card
    touches
        finishing touches by code

    Returns
    -------
    In mm.
    """
    slabs = stack(plan)
    panel = next(slab for slab in slabs if slab.name == plan.panel.name)
    top = panel.lift + panel.thick
    tops = [top + one.foam + paper_thickness(plan.stamped_gsm) for one in plan.spec.cutouts]
    gems = Length(GEMS_MM) if "gems" in touches and "gems" in TOUCHES else ZERO
    return max([top + gems, *tops, *(slab.lift + slab.thick for slab in slabs)])
