"""Palettes: taken from a photo or the colour wheel, and laid over regions."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User
from rest_framework.exceptions import ValidationError

from paleta.colour import Lab, difference, hex_to_lab, lab_to_hex
from paleta.media import Swatch
from paleta.palette import Ramp, find_ramps, share_out, suits
from paleta.recipe import Sheet
from server.derived import jobs, worker
from server.derived.maps import region_map
from server.ownership import require_owner
from server.pieces.colours.ramps import drawer_of, with_best_ramps
from server.pieces.models import Piece
from server.pieces.steps import keep_step

SAME_COLOUR = 4.0
PHOTO_LIMIT_S = 30.0


def colours_of_photo(data: bytes, count: int) -> list[Lab]:
    return worker.run(jobs.colours_of, data, count, limit_s=PHOTO_LIMIT_S)


def palette(
    *, actor: User, piece: Piece, colours: Sequence[Lab], locked: Sequence[Lab], shades: int
) -> list[tuple[Lab, Ramp | None]]:
    """Locked colours as they are, then `colours` that are unlike those, each with its best owned ramp."""
    require_owner(actor, piece)
    sheet = piece.sheet()
    drawer, paper = drawer_of(sheet, actor).shades(), sheet.stamp.paper_used
    count = max(len(colours), len(locked))
    chosen = list(locked)
    for colour in colours:
        if len(chosen) < count and all(float(difference(colour, other)) > SAME_COLOUR for other in chosen):
            chosen.append(colour)
    # Colours travel as #rrggbb: rounded before the search, they find the same ramps when they are laid.
    rounded = [hex_to_lab(lab_to_hex(lab)) for lab in chosen]
    return [(lab, next(iter(find_ramps(drawer, lab, shades, alternatives=1, paper=paper)), None)) for lab in rounded]


def share_out_palette(
    *, actor: User, piece: Piece, version: int, colours: Sequence[Lab], labels: Sequence[int]
) -> Piece:
    """Lay a palette over regions, thing by thing; no labels mean every region that is still open. Where nothing in the
    palette suits what a thing is, the drawer's colour that suits and is nearest to the palette takes its place.

    Raises
    ------
    ValidationError
        If there is no such region or none is open.
    """
    require_owner(actor, piece)
    sheet = piece.sheet()
    settings = sheet.regions.settings
    wanted = set(labels) or {label for label, one in settings.items() if not one.coats and not one.left_as_paper}
    if not wanted:
        raise ValidationError({"labels": "Every region has its colours already. Take some in hand to change them."})
    unknown = wanted - settings.keys()
    if unknown:
        raise ValidationError({"labels": f"There is no region {min(unknown)}."})
    drawer = drawer_of(sheet, actor).shades()
    wished = {
        label: _suiting(colours[place], sheet.regions.tags_of(label), drawer)
        for label, place in _places(piece, sheet, wanted, colours).items()
    }
    sheet, done = with_best_ramps(sheet, dict(sorted(wished.items())), drawer)
    if not done:
        raise ValidationError({"colours": "The drawer holds too few swatches for these shades."})
    what = f"A palette over {done} region{'' if done == 1 else 's'}"
    return keep_step(actor=actor, piece=piece, version=version, what=what, sheet=sheet)


def _suiting(colour: Lab, tags: Sequence[str], drawer: Sequence[Swatch]) -> Lab:
    """The colour, or the nearest in the drawer that suits these tags; the colour all the same if there is none."""
    if suits(tags, colour):
        return colour
    fit = [swatch.lab for swatch in drawer if suits(tags, swatch.lab)]
    return min(fit, key=lambda lab: float(difference(lab, colour)), default=colour)


def _places(piece: Piece, sheet: Sheet, wanted: set[int], colours: Sequence[Lab]) -> dict[int, int]:
    """For every wanted region the place of its colour in the palette; a thing gets one."""
    leads = sheet.regions.thing_leads()
    things = sorted({leads[label] for label in wanted})
    place = {label: things.index(leads[label]) for label in wanted}
    found = region_map(piece.stamping, sheet)
    areas = [0.0] * len(things)
    for region in found.regions:
        if region.label in wanted:
            areas[place[region.label]] += region.area_mm2
    touching: dict[tuple[int, int], float] = {}
    for border in found.borders:
        if border.a in wanted and border.b in wanted:
            first, second = sorted((place[border.a], place[border.b]))
            touching[first, second] = touching.get((first, second), 0.0) + border.length_mm
    chosen = share_out(areas, touching, colours, [sheet.regions.tags_of(lead) for lead in things])
    return {label: chosen[thing] for label, thing in place.items()}
