"""Ramps: proposed from the drawer, laid on regions, and what the drawer lacks for them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from django.contrib.auth.models import AbstractBaseUser
from rest_framework.exceptions import ValidationError

from paleta import palette
from paleta.colour import Lab
from paleta.errors import RecipeError
from paleta.media import MEDIA, Swatch
from paleta.palette import Missing, Ramp, find_ramps, judge
from paleta.recipe import RegionSetting, Sheet
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.regions.services import settings_of, words_for
from server.pieces.steps import keep_step

SUBSTITUTES_SHOWN = 6


def drawer_of(sheet: Sheet, actor: AbstractBaseUser) -> Drawer:
    """The drawer the sheet works from; any of the medium if that one is gone.

    Raises
    ------
    ValidationError
        If the actor has none for the medium.
    """
    medium = sheet.colours.medium
    drawers = Drawer.objects.owned_by(actor).filter(medium=medium)
    drawer = drawers.filter(pk=int(sheet.colours.drawer or 0)).first() or drawers.first()
    if drawer is None:
        raise ValidationError({"drawer": f"You have no drawer of {MEDIA[medium].lower()} yet."})
    return drawer


def propose_ramps(
    *, actor: AbstractBaseUser, piece: Piece, wish_lab: Lab, shades: int, shade_hue: str = "keep", meant: str = "middle"
) -> list[Ramp]:
    """Ramps from the piece's drawer for a wished colour, best first."""
    require_owner(actor, piece)
    return find_ramps(drawer_of(piece.sheet(), actor).shades(), wish_lab, shades, shade_hue=shade_hue, meant=meant)


def missing_pen(
    *, actor: AbstractBaseUser, piece: Piece, wish_lab: Lab, shades: int, shade_hue: str, meant: str
) -> Missing | None:
    """The one pen the piece's drawer lacks for a wish."""
    require_owner(actor, piece)
    return palette.missing_pen(
        drawer_of(piece.sheet(), actor).shades(), wish_lab, shades, shade_hue=shade_hue, meant=meant
    )


def counterparts(*, actor: AbstractBaseUser, piece: Piece, codes: Sequence[str], drawer: Drawer) -> list[Swatch]:
    """As many swatches from another drawer as the ramp has."""
    require_owner(actor, drawer)
    known = piece.sheet().colours.swatches
    missing = [code for code in codes if code not in known]
    if missing:
        raise ValidationError({"codes": f"There is no swatch {missing[0]!r} on this sheet."})
    return palette.counterparts([known[code] for code in codes], drawer.shades())


def substitutes(*, actor: AbstractBaseUser, lab: Lab) -> list[tuple[Swatch, float, Drawer]]:
    """The nearest swatches of all drawers of the actor, itself left out."""
    owners: dict[int, Drawer] = {}
    everything: list[Swatch] = []
    for drawer in Drawer.objects.owned_by(actor).prefetch_related("swatches"):
        for shade in drawer.shades():
            owners[id(shade)] = drawer
            everything.append(shade)
    found = palette.substitutes(lab, everything, SUBSTITUTES_SHOWN + 1)
    return [(swatch, apart, owners[id(swatch)]) for swatch, apart in found if apart > 0]


def set_ramp(
    *,
    actor: AbstractBaseUser,
    piece: Piece,
    version: int,
    labels: Sequence[int],
    codes: Sequence[str],
    wish_lab: Lab | None,
    by_hand: bool,
) -> Piece:
    """Give regions a ramp of swatches from the drawer, palest first; no codes take the ramp off."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    swatches: dict[str, Swatch] = {}
    if codes:
        known = {**sheet.colours.swatches, **{one.code: one for one in drawer_of(sheet, actor).shades()}}
        missing = [code for code in codes if code not in known]
        if missing:
            raise RecipeError(f"There is no swatch {missing[0]!r} in the drawer.")
        chosen = [known[code] for code in codes]
        judge(chosen)
        swatches = {swatch.code: swatch for swatch in sorted(chosen, key=lambda swatch: -swatch.lab[0])}
    changed = {
        label: laid(setting, swatches.values(), wish_lab or setting.wish_lab, by_hand=by_hand)
        for label, setting in settings.items()
    }
    names = " · ".join(swatch.name for swatch in swatches.values()) or "no colours"
    what = f"{words_for(settings)}: {names}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def laid(
    setting: RegionSetting, swatches: Iterable[Swatch], wish_lab: Lab | None = None, *, by_hand: bool = False
) -> RegionSetting:
    """The region with this ramp, palest first; with none it is bare again."""
    ramp = tuple(swatch.code for swatch in swatches)
    return replace(
        setting,
        ramp=ramp,
        shades=len(ramp) or setting.shades,
        wish_lab=wish_lab or setting.wish_lab,
        by_hand=by_hand,
        left_as_paper=False,
    )


def colour_all_wishes(*, actor: AbstractBaseUser, piece: Piece, version: int) -> Piece:
    """Give every region that has a wished colour but no ramp the best ramp of the drawer."""
    sheet = piece.sheet()
    wished = {
        label: one.wish_lab
        for label, one in sheet.regions.settings.items()
        if one.wish_lab is not None and not one.ramp and not one.left_as_paper
    }
    sheet, done = with_best_ramps(sheet, wished, drawer_of(sheet, actor).shades())
    return keep_step(actor=actor, piece=piece, version=version, what=f"Colours for {done} regions", sheet=sheet)


def with_best_ramps(sheet: Sheet, wished: Mapping[int, Lab], drawer: Sequence[Swatch]) -> tuple[Sheet, int]:
    """The sheet with the best ramp for each wished colour, and on how many regions there was one."""
    best: dict[tuple[Lab, int], Ramp | None] = {}
    changed: dict[int, RegionSetting] = {}
    swatches: dict[str, Swatch] = {}
    for label, lab in wished.items():
        setting = sheet.regions.settings[label]
        if (lab, setting.shades) not in best:
            best[lab, setting.shades] = next(iter(find_ramps(drawer, lab, setting.shades, alternatives=1)), None)
        ramp = best[lab, setting.shades]
        if ramp is not None:
            changed[label] = laid(setting, ramp.swatches, lab)
            swatches.update({one.code: one for one in ramp.swatches})
    return sheet.with_regions(changed, swatches), len(changed)
