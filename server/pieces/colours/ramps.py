"""Ramps: proposed from the drawer, laid on regions, and what the drawer lacks for them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta import palette
from paleta.colour import Lab
from paleta.errors import RecipeError
from paleta.light import ACCENTS
from paleta.media import MEDIA, Swatch, at_strength, code_at, seen_on, split_code
from paleta.order import Pen
from paleta.palette import Missing, Ramp, find_ramps, judge, usual_accent
from paleta.picture import looks_of
from paleta.recipe import Accent, Coat, RegionSetting, Sheet
from server.drawers.models import Drawer
from server.ownership import require_owner
from server.pieces.models import Piece
from server.pieces.regions.services import settings_of, words_for
from server.pieces.steps import keep_step

SUBSTITUTES_SHOWN = 6


def drawer_of(sheet: Sheet, actor: User, medium: str = "") -> Drawer:
    """The drawer the sheet works from in a medium, or in its usual one; any of the medium if that one is gone.

    Raises
    ------
    ValidationError
        If the actor has none for the medium.
    """
    medium = medium or sheet.colours.medium
    drawers = Drawer.objects.owned_by(actor).filter(medium=medium)
    drawer = drawers.filter(pk__in=[int(one) for one in sheet.colours.drawers]).first() or drawers.first()
    if drawer is None:
        raise ValidationError({"drawer": f"You have no drawer of {MEDIA[medium].lower()} yet."})
    return drawer


def propose_ramps(
    *,
    actor: User,
    piece: Piece,
    wish_lab: Lab,
    shades: int,
    shade_hue: str = "keep",
    meant: str = "middle",
    medium: str = "",
    among: str = "",
) -> list[Ramp]:
    """Ramps from the piece's drawer of a medium for a wished colour, best first; last one swatch drawn out to bare
    paper, where the medium can be. Pens that the card takes already are at hand."""
    require_owner(actor, piece)
    sheet = piece.sheet()
    drawer, paper = drawer_of(sheet, actor, medium).shades(), sheet.stamp.paper_used
    at_hand = {split_code(code)[0] for laid, code in sheet.colours.swatches if laid == (medium or sheet.colours.medium)}
    found = find_ramps(
        drawer, wish_lab, shades, shade_hue=shade_hue, meant=meant, paper=paper, among=among, at_hand=at_hand
    )
    return [*found, *palette.find_drawn_out(drawer, wish_lab, shades, paper=paper)]


def missing_pen(
    *, actor: User, piece: Piece, wish_lab: Lab, shades: int, shade_hue: str, meant: str, medium: str = ""
) -> Missing | None:
    """The one pen the piece's drawer lacks for a wish."""
    require_owner(actor, piece)
    return palette.missing_pen(
        drawer_of(piece.sheet(), actor, medium).shades(), wish_lab, shades, shade_hue=shade_hue, meant=meant
    )


def counterparts(*, actor: User, piece: Piece, codes: Sequence[str], drawer: Drawer, medium: str = "") -> list[Swatch]:
    """As many swatches from another drawer as the ramp of a medium has."""
    require_owner(actor, drawer)
    colours = piece.sheet().colours
    wanted = [(medium or colours.medium, code) for code in codes]
    missing = [code for medium, code in wanted if (medium, code) not in colours.swatches]
    if missing:
        raise ValidationError({"codes": f"There is no swatch {missing[0]!r} on this sheet."})
    return palette.counterparts([colours.swatches[pen] for pen in wanted], drawer.shades())


def substitutes(*, actor: User, lab: Lab) -> list[tuple[Swatch, float, Drawer]]:
    """The nearest swatches of all drawers of the actor, itself left out."""
    owners: dict[int, Drawer] = {}
    everything: list[Swatch] = []
    for drawer in Drawer.objects.owned_by(actor).prefetch_related("swatches"):
        for shade in drawer.own():
            owners[id(shade)] = drawer
            everything.append(shade)
    found = palette.substitutes(lab, everything, SUBSTITUTES_SHOWN + 1)
    return [(swatch, apart, owners[id(swatch)]) for swatch, apart in found if apart > 0]


def set_ramp(
    *,
    actor: User,
    piece: Piece,
    version: int,
    labels: Sequence[int],
    codes: Sequence[str],
    wish_lab: Lab | None,
    by_hand: bool,
    medium: str = "",
    over: bool = False,
    to_paper: bool | None = None,
    strengths: Sequence[int] = (),
    drawn_out: int = 0,
) -> Piece:
    """Give regions a ramp of swatches from the drawer of a medium, palest first: in the place of what they have in that
    medium, else `over` their coats or instead of them. No codes take the coat of the medium off, or all of them; one
    code may be drawn out over so many zones to bare paper."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    chosen: list[Swatch] = []
    if codes:
        if drawn_out:
            if len(codes) > 1:
                raise ValidationError({"codes": "One swatch is drawn out to bare paper, not several."})
            codes, strengths, to_paper = [split_code(codes[0])[0]], (), True
        chosen = _asked_for(sheet, actor, medium or sheet.colours.medium, codes, strengths)
        if drawn_out:
            chosen = [*palette.drawn_out(chosen[0], drawn_out, sheet.stamp.paper_used).swatches]
        judge(chosen)
    changed = {
        label: laid(setting, chosen, wish_lab, by_hand=by_hand, over=over) if chosen else setting.without_coat(medium)
        for label, setting in settings.items()
    }
    if to_paper is not None:
        changed = {label: replace(setting, bare_highlight=to_paper) for label, setting in changed.items()}
    names = " · ".join(swatch.name for swatch in chosen) or "no colours"
    what = f"{words_for(settings)}: {names}{' over what is there' if over and chosen else ''}"
    swatches = pens_of(chosen)
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def _asked_for(sheet: Sheet, actor: User, medium: str, codes: Sequence[str], strengths: Sequence[int]) -> list[Swatch]:
    """Swatches of the drawer or of the sheet, palest first as they are seen; each at the strength that its code says,
    or at its own of `strengths`, in hundredths."""
    if strengths and len(strengths) != len(codes):
        raise ValidationError({"strengths": "There is one strength for each swatch."})
    known = {code: one for (other, code), one in sheet.colours.swatches.items() if other == medium}
    known |= {one.code: one for one in drawer_of(sheet, actor, medium).own()}
    wanted = [split_code(code) for code in codes]
    if strengths:
        wanted = [(code, percent / 100) for (code, _), percent in zip(wanted, strengths, strict=True)]
    found = []
    for code, strength in wanted:
        # What lies on the sheet can be laid as it is there, though its pen is in no drawer any more.
        there = known.get(code_at(code, strength)) or known.get(code)
        if there is None:
            raise RecipeError(f"There is no swatch {code!r} in the drawer.")
        found.append(there if split_code(there.code)[1] == strength else at_strength(there, strength))
    return sorted(found, key=lambda one: -seen_on(one, sheet.stamp.paper_used)[0])


def pens_of(swatches: Iterable[Swatch]) -> dict[Pen, Swatch]:
    return {(one.medium, one.code): one for one in swatches}


def laid(
    setting: RegionSetting,
    swatches: Sequence[Swatch],
    wish_lab: Lab | None = None,
    *,
    by_hand: bool = False,
    over: bool = False,
) -> RegionSetting:
    """The region with a coat of this ramp, palest first, all of one medium; a ground keeps its way of laying."""
    medium = swatches[0].medium
    before = setting.coat_of(medium)
    coat = Coat(
        medium=medium, ramp=tuple(one.code for one in swatches), school=before.school if before is not None else ""
    )
    return replace(setting.with_coat(coat, over=over), wish_lab=wish_lab or setting.wish_lab, by_hand=by_hand)


def set_accent(
    *, actor: User, piece: Piece, version: int, labels: Sequence[int], kind: str, medium: str, code: str | None
) -> Piece:
    """Give regions an accent with a swatch from the drawer of a medium, the usual one where no code is named; an empty
    code takes it off."""
    sheet = piece.sheet()
    settings = settings_of(sheet, labels)
    chosen: dict[int, Swatch] = {}
    if code != "":
        bare = next((one.name for one in settings.values() if not one.coats), None)
        if bare is not None:
            raise ValidationError({"labels": f"{bare} has no colours that an accent could lie on."})
        if code is None:
            chosen = _usual_accents(sheet, settings, kind, drawer_of(sheet, actor, medium).own())
        else:
            chosen = dict.fromkeys(settings, _asked_for(sheet, actor, medium, [code], [])[0])
    changed = {}
    for label, setting in settings.items():
        others = tuple(one for one in setting.accents if one.kind != kind)
        laid_with = (Accent(kind=kind, medium=medium, code=chosen[label].code),) if chosen else ()
        changed[label] = replace(setting, accents=(*others, *laid_with))
    names = list(dict.fromkeys(one.name for one in chosen.values()))
    said = f"{len(names)} swatches" if len(names) > 1 else names[0] if names else "none"
    what = f"{words_for(settings)}: {ACCENTS[kind].name.lower()}, {said}"
    swatches = pens_of(chosen.values())
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet.with_regions(changed, swatches))


def _usual_accents(
    sheet: Sheet, settings: Mapping[int, RegionSetting], kind: str, drawer: Sequence[Swatch]
) -> dict[int, Swatch]:
    """For each region the usual swatch of the accent over what it lies on."""
    if not drawer:
        raise ValidationError({"medium": "The drawer is empty. Add a swatch to it first."})
    looks, dark = looks_of(sheet), ACCENTS[kind].dark
    return {label: usual_accent(drawer, looks.get(label, ()), dark=dark) for label in settings}


def colour_all_wishes(*, actor: User, piece: Piece, version: int) -> Piece:
    """Give every region that has a wished colour but no ramp the best ramp of the drawer."""
    sheet = piece.sheet()
    wished = {
        label: one.wish_lab
        for label, one in sheet.regions.settings.items()
        if one.wish_lab is not None and not one.coats and not one.left_as_paper
    }
    sheet, done = with_best_ramps(sheet, wished, drawer_of(sheet, actor).shades())
    return keep_step(actor=actor, piece=piece, version=version, what=f"Colours for {done} regions", sheet=sheet)


def with_best_ramps(sheet: Sheet, wished: Mapping[int, Lab], drawer: Sequence[Swatch]) -> tuple[Sheet, int]:
    """The sheet with the best ramp for each wished colour, and on how many regions there was one."""
    best: dict[tuple[Lab, int], Ramp | None] = {}
    changed: dict[int, RegionSetting] = {}
    swatches: dict[Pen, Swatch] = {}
    for label, lab in wished.items():
        setting = sheet.regions.settings[label]
        if (lab, setting.shades) not in best:
            found = find_ramps(drawer, lab, setting.shades, alternatives=1, paper=sheet.stamp.paper_used)
            best[lab, setting.shades] = next(iter(found), None)
        ramp = best[lab, setting.shades]
        if ramp is not None:
            changed[label] = laid(setting, ramp.swatches, lab)
            swatches.update(pens_of(ramp.swatches))
    return sheet.with_regions(changed, swatches), len(changed)
