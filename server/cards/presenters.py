"""Cards as the API tells them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict, fields, is_dataclass
from typing import Any

from paleta.card import (
    FOLDS,
    CardPlan,
    Cut,
    CutPlan,
    CutSheet,
    Length,
    Picture,
    PlacedLayer,
    Slab,
    check_making,
    cut_lines,
    said_weight,
    stack,
)
from paleta.fields import to_plain
from paleta.page import said_card
from server.cards.layouts import CardOf
from server.cards.serializers import LengthSerializer, PlaceSerializer

length = LengthSerializer.of
place = PlaceSerializer.of
WHITE, FOAM = "#ffffff", "#e6e6e6"


def present_card(card: CardOf) -> dict[str, Any]:
    plan, picture = card.plan, card.picture
    assert plan.crop is not None and plan.rough is not None
    return {
        "open_width": length(plan.open_sheet[0]),
        "open_height": length(plan.open_sheet[1]),
        "scores": [length(score) for score in plan.scores],
        "score_down": FOLDS[plan.spec.base.fold].down,
        "layers": [_laid(plan, one) for one in plan.layers],
        "foams": [_laid(plan, one) for one in plan.foams],
        "side": [_slab(plan, one) for one in stack(plan)],
        "greeting": _laid(plan, plan.greeting) if plan.greeting else None,
        "inside": _laid(plan, plan.inside) if plan.inside else None,
        "crop": place(plan.crop),
        "crops": {by: _centred(plan, picture, by) for by in ("figure", "weight")},
        "rough": place(plan.rough),
        "outlines": [
            {"name": one.name, "points": path.round(2).tolist()}
            for one in plan.spec.cutouts
            for path in cut_lines(picture.labels, one.regions, float(one.margin.mm), picture.px_per_mm)
        ],
        "covered": [{"name": name, "share": round(share, 4)} for name, share in plan.covered],
        "thickness": length(plan.thickness),
        "pieces": [
            {
                "name": one.name,
                "width": length(one.width),
                "height": length(one.height),
                "stock": one.stock,
                "count": one.count,
            }
            for one in plan.pieces
        ],
        "warnings": [
            {
                **{name: getattr(one, name) for name in ("code", "about", "sentence", "remedy")},
                "mended": to_plain(one.mended) if one.mended else None,
            }
            for one in plan.warnings
        ],
        "making": [asdict(step) for step in card.steps],
        "conflicts": [asdict(one) for one in check_making([step.code for step in card.steps])],
        "weights": [{"name": one.name, "said": said_weight(one.gsm)} for one in plan.spec.stock],
        "sizes": [{"at": at, "length": length(one)} for at, one in _lengths_in(plan.spec)],
        "said": said_card(plan, "in"),
        "said_cm": said_card(plan, "cm"),
    }


def _lengths_in(value: Any, at: str = "") -> Iterator[tuple[str, Length]]:
    """Every length in a spec, with where it stands."""
    if isinstance(value, Length):
        yield at, value
    elif isinstance(value, tuple):
        for number, one in enumerate(value):
            yield from _lengths_in(one, f"{at}.{number}")
    elif is_dataclass(value):
        for one in fields(value):
            yield from _lengths_in(getattr(value, one.name), f"{at}.{one.name}" if at else one.name)


def _centred(plan: CardPlan, picture: Picture, by: str) -> dict[str, Any]:
    x, y = picture.middle(by)
    panel = plan.panel.place
    return {"x": length(x - panel.width / 2), "y": length(y - panel.height / 2)}


def _laid(plan: CardPlan, one: PlacedLayer) -> dict[str, Any]:
    stock = plan.spec.stock_named(one.stock)
    return {
        "kind": one.kind,
        "name": one.name,
        "place": place(one.place),
        "stock": one.stock,
        "hex": stock.colour if stock else WHITE,
        "foam": length(one.foam),
    }


def _slab(plan: CardPlan, one: Slab) -> dict[str, Any]:
    stock = plan.spec.stock_named(one.stock)
    return {
        "name": one.name,
        "hex": FOAM if one.foam else stock.colour if stock else WHITE,
        "x_mm": float(one.place.x.mm),
        "width_mm": float(one.place.width.mm),
        "lift_mm": float(one.lift.mm),
        "thick_mm": float(one.thick.mm),
        "foam": one.foam,
    }


def present_cutting(plan: CutPlan, cards: int) -> dict[str, Any]:
    return {
        "cards": cards,
        "sheets": [_sheet(one) for one in plan.sheets],
        "needs": [
            {
                "stock": need.stock.name,
                "used": need.used,
                "bound": need.bound,
                "owned": need.stock.owned,
                "buy": need.buy,
            }
            for need in plan.needs
        ],
        "uncut": list(plan.uncut),
        "waste": round(plan.waste, 4),
        "proven": plan.proven,
    }


def _sheet(one: CutSheet) -> dict[str, Any]:
    return {
        "stock": one.stock.name,
        "hex": one.stock.colour,
        "width": length(one.stock.width),
        "height": length(one.stock.height),
        "count": one.count,
        "pieces": [
            {
                "name": piece.name,
                "place": place(piece.place),
                "turned": piece.turned,
                "scores": [_cut(score) for score in piece.scores],
            }
            for piece in one.pieces
        ],
        "cuts": [_cut(cut) for cut in one.cuts],
    }


def _cut(cut: Cut) -> dict[str, Any]:
    ends = {name: float(getattr(cut, name).mm) for name in ("x0", "y0", "x1", "y1")}
    return {"number": cut.number, "down": cut.down, "at": length(cut.at), **ends}
