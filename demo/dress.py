"""What lies round and over the figures of the demo: grounds, further coats, accents, laid by the same services as a
person's. Together the pieces show the eight walks of the trade (docs/trade-notes.md, section Grounds)."""

from __future__ import annotations

from typing import Any

from demo.benches import DemoAccent, DemoGround
from paleta.colour import hex_to_lab
from paleta.palette import find_drawn_out
from server.drawers.models import Drawer
from server.pieces.colours.ramps import drawer_of, set_accent, set_ramp
from server.pieces.models import Piece
from server.pieces.regions.grounds import cut_bands, lay_ground, take_ground
from server.pieces.regions.services import change_regions
from server.pieces.sheet.services import describe, lay_over


def dress(user: Any, piece: Piece, ground: DemoGround | None, over: str, accents: tuple[DemoAccent, ...]) -> Piece:
    """Further coats on the figure, its accents, and the ground behind it."""
    if over:
        drawer = Drawer.objects.owned_by(user).get(medium=over)
        piece = lay_over(actor=user, piece=piece, version=piece.version, drawer=drawer)
    settings = piece.sheet().regions.settings
    figure = [label for label, one in settings.items() if one.coats]
    for accent in accents:
        piece = set_accent(
            actor=user, piece=piece, version=piece.version, labels=figure, kind=accent.kind, medium=accent.medium,
            code=None,
        )  # fmt: skip
    return _with_ground(user, piece, ground) if ground is not None else piece


def draw_out(user: Any, piece: Piece) -> Piece:
    """Each thing of the figure in one pen, drawn out from its shade to bare paper."""
    settings = piece.sheet().regions.settings
    by_wish: dict[Any, list[int]] = {}
    for label, one in settings.items():
        if one.coats and one.wish_lab is not None:
            by_wish.setdefault((one.wish_lab, one.shades), []).append(label)
    for (wish, shades), labels in by_wish.items():
        sheet = piece.sheet()
        drawer = drawer_of(sheet, user).shades()
        for ramp in find_drawn_out(drawer, wish, shades + 1, paper=sheet.stamp.paper_used):
            piece = set_ramp(
                actor=user, piece=piece, version=piece.version, labels=labels, wish_lab=wish, by_hand=False,
                codes=[one.code for one in ramp.swatches], to_paper=True,
            )  # fmt: skip
    return piece


def _with_ground(user: Any, piece: Piece, ground: DemoGround) -> Piece:
    piece = take_ground(actor=user, piece=piece, version=piece.version)
    label = max(piece.sheet().regions.settings)
    if ground.widths_mm:
        piece = cut_bands(
            actor=user, piece=piece, version=piece.version, label=label, widths_mm=ground.widths_mm, gap_mm=3,
            from_deg=180,
        )  # fmt: skip
    else:
        changes = {"fade": ground.fade}
        piece = change_regions(actor=user, piece=piece, version=piece.version, labels=[label], changes=changes)
    labels = [label for label, one in piece.sheet().regions.settings.items() if one.fade is not None]
    for one, wish in zip(labels, ground.wishes, strict=True):
        piece = lay_ground(
            actor=user, piece=piece, version=piece.version, labels=[one], way=ground.way, wish_lab=hex_to_lab(wish)
        )
    if ground.splatter:
        coat = piece.sheet().regions.settings[label].coats[0]
        piece = set_accent(
            actor=user, piece=piece, version=piece.version, labels=labels, kind="splatter", medium=coat.medium,
            code=coat.ramp[-1],
        )  # fmt: skip
    order = {"masked": ground.masked, "wish": "background" if ground.first else ""}
    return describe(actor=user, piece=piece, version=piece.version, part="order", changes=order)
