"""A photo of a card compared with its recipe."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from paleta.colour import lab_to_srgb
from paleta.errors import NotThisCard, PhotoUnfit
from paleta.impression import MM_PER_INCH, Impression, RegionMap
from paleta.light import FORMS, SCALE, Body, Relief
from paleta.photo_check._cast import Corrected, GreyPatch, correct_light
from paleta.photo_check._cells import Cells, cells_of, lab_of_log, log_light, near_ink, on_paper, shown
from paleta.photo_check._edges import grounds_uneven, run_over
from paleta.photo_check._faults import BARE, Fault, find_faults, not_yet
from paleta.photo_check._light_laid import LaidLight, lightness_of, lights_laid
from paleta.photo_check._readings import RegionReading, patchy_light, readings_of
from paleta.photo_check._register import NotTheSameStamp, Registration, Template, photo_read
from paleta.photo_check._shine import without_shine
from paleta.picture import Planned, planned
from paleta.recipe import Recipe, Sheet, bodies_of

CARD_LIKENESS = 0.42
"""Colour hides a part of the lines, so a card is taken for the stamp's with less likeness than a bare stamping."""
HALF = 0.85
"""Of what is to be coloured, a card with less than this laid is not finished: what is bare is no fault yet."""
FEW = 3
"""So many bare regions were forgotten rather than not come to yet."""
BLACK, BURNT_SHARE, COLOURLESS = 0.06, 0.5, 0.003
LEAST_COVERED = 0.4
"""Of the card with less than this measured nothing is said; where more of it was lost, what was lost is."""
NEARLY_ALL = 0.8
"""A photo that shows less than this share of the planned colours may be of a card that has hardly been begun."""
IMPLAUSIBLE = 4.5
"""Median CIEDE2000 of a card's parts beyond which it is the photo, or the recipe, that is not the card's: a card with a
third of its parts off by up to 10 has 1."""
TURNED = 0.3
"""With so many of its shades the wrong way round a card is lit from the other side."""
UNSURE_LIKENESS, MIRRORED_MORE = 0.75, 0.1
"""A photo less like the drawing than the first is looked at in a mirror, and refused if so much more like it there."""
NOT_IN_THE_PHOTO = (
    "The card of this recipe is not in the photo: its stamped lines were not found. Is it the right card, and all of "
    "it in the picture?"
)
BLURRED = 0.4
"""Mean line, 0..1, below which the drawing is too soft for its zones to be told apart."""


@dataclass(frozen=True, eq=False)
class PhotoReport:
    """What a photo says of a card.

    faults    largest first, then what is not coloured yet. readings: every region that could be measured, by label.
              unseen: labels that could not.
    laid      share of what is to be coloured that is coloured, 0..1; below HALF what is bare is told by thing, as not
              coloured yet.
    light     of the card as a whole, and `lights` of its things by their first label; None where it cannot be told.
    notes     sentences about the photo itself.
    flat      h x w x 3 float32 sRGB on every SCALE-th pixel of the impression: the photo laid flat, its light taken
              out; NaN where it was not seen, or shines.
    """

    faults: tuple[Fault, ...]
    readings: Mapping[int, RegionReading]
    unseen: tuple[int, ...]
    laid: float
    light: LaidLight | None
    lights: Mapping[int, LaidLight]
    registration: Registration
    notes: tuple[str, ...]
    flat: NDArray[np.float32] = field(repr=False)


def compare(
    photo: bytes | Impression,
    recipe: Recipe | Sheet,
    region_map: RegionMap,
    *,
    relief: Relief | None = None,
    corners: NDArray[np.float64] | None = None,
    patches: Sequence[GreyPatch] = (),
    paler: bool = False,
) -> PhotoReport:
    """Measure a photo of a card and say where it is not as planned.

    Parameters
    ----------
    photo : bytes or Impression
        Of the card, whichever way up, in whatever light there is.
    recipe : Recipe or Sheet
        What was to be made.
    region_map : RegionMap
        Its map after its edits.
    relief : Relief, optional
        Its forms; modelled where they are not given.
    corners : 4 x 2, optional
        Of the card in the photo as (x, y) 0..1; found where they are not said.
    patches : sequence of GreyPatch
        Greys that are printed beside the picture.
    paler : bool
        Whether the stamped line is paler than its paper.

    Raises
    ------
    NotAnImage, ImageTooLarge
        If it cannot be read whole.
    PhotoUnfit
        If it is black, burnt out, without colours or far too soft, if nothing coloured is seen on it, or if its colours
        fit the plan nowhere.
    NotThisCard
        If the stamped image is not in it, or most of it is cut off, or it is mirrored.
    """
    sheet = recipe.sheet if isinstance(recipe, Recipe) else recipe
    seen = photo_read(photo)
    check_light(seen)
    template = Template.drawn(region_map.ink.astype(np.float32), region_map.dpi, paler)
    registration = _found(template, seen, corners)
    if float(np.percentile(np.ptp(seen.pixels[::8, ::8], axis=-1), 99)) < COLOURLESS:
        raise PhotoUnfit("The photo is black and white, so its colours cannot be judged. Take it in colour.")
    plan = planned(sheet, region_map, relief)
    laid = registration.laid(seen.pixels, SCALE)
    ink = np.ascontiguousarray(region_map.ink[::SCALE, ::SCALE])
    if template.sharpness(laid) < BLURRED * _sharpest(template, plan, ink):
        raise PhotoUnfit("The photo is too blurred to measure. Hold the phone still, or farther away, and try again.")
    laid = without_shine(laid, ink, plan.px_per_mm)
    cells = cells_of(plan, laid, ink)
    if on_paper(cells).all():
        raise PhotoUnfit("Nothing that is to be coloured could be measured: it shines, or lies outside of the photo.")
    if cells.covered < LEAST_COVERED * registration.share:
        raise PhotoUnfit(
            f"Only {cells.covered:.0%} of the card could be measured: the rest shines or is burnt out. Take the photo "
            "with less light, without flash, and turn the card until nothing shines."
        )
    corrected = _corrected(plan, cells, patches, _patch_colours(seen, registration, patches))
    readings = readings_of(plan, cells, corrected)
    _check_plausible(readings)
    return _report(plan, cells, corrected, readings, registration, laid, ink)


def _found(template: Template, photo: Impression, corners: NDArray[np.float64] | None) -> Registration:
    """Where the card lies in the photo.

    Raises
    ------
    NotThisCard
        If it does not, or only in a mirror.
    """
    found = template.found_in(photo, corners, CARD_LIKENESS)
    if found.likeness < UNSURE_LIKENESS:
        turned = Impression(pixels=np.ascontiguousarray(photo.pixels[:, ::-1]), dpi=photo.dpi)
        other = template.found_in(turned, None, CARD_LIKENESS)
        if isinstance(other, Registration) and other.likeness > found.likeness + MIRRORED_MORE:
            raise NotThisCard("The photo is mirrored, as some phones save selfies. Take it with the main camera.")
    if isinstance(found, NotTheSameStamp):
        raise NotThisCard(found.reason if found.code == "cut" else NOT_IN_THE_PHOTO)
    return found


def _corrected(
    plan: Planned, cells: Cells, patches: Sequence[GreyPatch], seen_patches: NDArray[np.float32] | None
) -> Corrected:
    """The photo without its light. On a card that is hardly begun most of what is to be coloured is paper: where not
    nearly all of the plan shows, the light is also told as if nothing were coloured, and what agrees with more is
    believed."""
    ways = [(cells, False)]
    if shown(cells) < NEARLY_ALL:
        paper = log_light(lab_to_srgb(np.array(plan.sheet.stamp.paper_used.lab)).astype(np.float32))
        bare = np.broadcast_to(paper.astype(np.float64), cells.plan.shape)
        ways.append((replace(cells, plan=bare), True))
    found, unfit = [], None
    for taken, bare_card in ways:
        try:
            one = correct_light(taken, patches, seen_patches, plain_phone=bare_card)
        except PhotoUnfit as error:
            unfit = error
        else:
            found.append((one.agreeing(taken), one))
    if not found:
        assert unfit is not None
        raise unfit
    return max(found, key=lambda each: each[0])[1]


def _check_plausible(readings: Mapping[int, RegionReading]) -> None:
    """Refuse a photo that fits the plan nowhere. What is bare yet is not asked, nor a card that is lit from the other
    side."""
    slopes = [one.slope for one in readings.values() if one.slope is not None]
    if slopes and sum(1 for one in slopes if one < 0) > TURNED * len(slopes):
        return
    sizes = [one.size for one in readings.values() if one.laid is None or one.laid >= BARE]
    if len(sizes) > FEW and float(np.median(sizes)) > IMPLAUSIBLE:
        raise PhotoUnfit(
            f"The colours in this photo fit the plan nowhere: half of the parts are off by more than "
            f"{np.median(sizes):.0f}. Take it again in daylight, without a filter, flash or shadow. If the "
            "photo shows the card as you see it, the card was made with other colours than this recipe's."
        )


def _sharpest(template: Template, plan: Planned, ink: NDArray[np.bool_]) -> float:
    """How sharp a photo without any blur would be: a line of gold never shows as much as a black one."""
    line_lab = plan.sheet.stamp.line_lab
    if line_lab is None:
        return 1.0
    card = np.where(ink[..., None], lab_to_srgb(np.array(line_lab)), plan.rgb / 255)
    return template.sharpness(card.astype(np.float32))


def check_light(photo: Impression) -> None:
    """Refuse a photo that is black or burnt out."""
    small = cv2.resize(photo.pixels, (64, 64), interpolation=cv2.INTER_AREA)
    if float(np.percentile(small, 97)) < BLACK:
        raise PhotoUnfit("The photo is almost black. Take it in daylight or under a lamp.")
    if float((small.min(axis=-1) > 0.985).mean()) > BURNT_SHARE:
        raise PhotoUnfit("The photo is burnt out: most of it is pure white. Take it with less light, without flash.")


def _report(
    plan: Planned,
    cells: Cells,
    corrected: Corrected,
    readings: Mapping[int, RegionReading],
    registration: Registration,
    laid: NDArray[np.float32],
    ink: NDArray[np.bool_],
) -> PhotoReport:
    sheet = plan.sheet
    wanted = [label for label, one in sheet.regions.settings.items() if one.coats and not one.left_as_paper]
    areas = np.bincount(plan.labels.ravel(), minlength=max(wanted, default=0) + 1)
    told = {label: one.laid for label, one in readings.items() if one.laid is not None}
    share = sum(int(areas[label]) for label in told) or 1
    done = sum(int(areas[label]) for label, one in told.items() if one >= BARE) / share
    judged = readings
    bare = sum(1 for one in told.values() if one < BARE)
    unfinished = done < HALF and bare > FEW
    if unfinished:
        judged = {label: one for label, one in readings.items() if one.laid is None or one.laid >= BARE}
    whole = corrected.whole(laid, plan.px_per_mm)
    clear = ~near_ink(ink, plan.px_per_mm) & ~np.isnan(laid).any(axis=-1)
    patchy = patchy_light(cells, readings)
    faults = find_faults(sheet, judged, patchy=patchy)
    faults += run_over(plan, whole, clear, judged)
    faults += grounds_uneven(plan, cells, corrected, judged)
    faults = sorted(faults, key=lambda one: (-one.size, one.regions))
    # What is only not done yet stands after what went wrong, however far it is from the plan.
    faults += not_yet(sheet, {label: one for label, one in readings.items() if label not in judged})
    light, lights = _lights(plan, whole, clear, judged)
    return PhotoReport(
        faults=tuple(faults),
        readings=readings,
        unseen=tuple(label for label in wanted if label not in readings and areas[label]),
        laid=done if told else 1.0,
        light=light,
        lights=lights,
        registration=registration,
        notes=tuple(_notes(registration, cells, done if unfinished else 1.0, patchy)),
        flat=_as_srgb(whole, laid),
    )


def _lights(
    plan: Planned, whole: NDArray[np.float32], clear: NDArray[np.bool_], judged: Iterable[int]
) -> tuple[LaidLight | None, dict[int, LaidLight]]:
    seen = lightness_of(np.nan_to_num(whole, nan=0.0))
    fades, known = plan.sheet.regions.fades(), set(judged)
    settings = plan.sheet.regions.settings
    groups: dict[int, list[Body]] = {}
    things: dict[str, int] = {}
    for body in bodies_of(plan.sheet):
        rounded = FORMS[body.form].rounded and set(body.regions) <= known and not set(body.regions) & set(fades)
        if rounded:
            first = body.regions[0]
            thing = settings[first].thing
            groups.setdefault(things.setdefault(thing, first) if thing else first, []).append(body)
    return lights_laid(plan, groups, seen, clear)


def _notes(registration: Registration, cells: Cells, done: float, patchy: bool) -> Iterable[str]:
    turned = registration.turned_deg
    if abs(turned) > 45:
        yield f"The photo was turned by {round(abs(turned) / 90) * 90}° and set upright."
    if registration.share < 0.97:
        yield f"Only {registration.share:.0%} of the picture is in the photo; what is cut off was not judged."
    if patchy:
        yield (
            "Light and shadow lie in patches on this photo. Only what differs by more than they make is listed; take "
            "it again in even light to see the rest."
        )
    if cells.covered < 0.95:
        yield f"{1 - cells.covered:.0%} of the card could not be measured: it shines, or lies outside of the photo."
    if done < 1:
        yield f"The card is not finished: {done:.0%} of what is to be coloured is laid. What is bare is listed as such."


def _patch_colours(
    photo: Impression, registration: Registration, patches: Sequence[GreyPatch]
) -> NDArray[np.float32] | None:
    """P x 3 sRGB of the printed greys as the photo shows them; NaN where one lies outside."""
    if not patches:
        return None
    px_per_mm, found = registration.dpi / MM_PER_INCH, []
    for one in patches:
        side = np.linspace(-0.3, 0.3, 7) * one.side_mm
        grid = np.stack(np.meshgrid(side + one.x_mm, side + one.y_mm), axis=-1).reshape(-1, 2) * px_per_mm
        places = registration.to_photo(grid).astype(np.float32)[None]
        nan = (np.nan,) * 3
        colours = cv2.remap(
            photo.pixels, places, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT, borderValue=nan
        )
        found.append(np.median(colours[0], axis=0))
    return np.array(found, np.float32)


def _as_srgb(whole: NDArray[np.float32], laid: NDArray[np.float32]) -> NDArray[np.float32]:
    flat = lab_to_srgb(lab_of_log(np.nan_to_num(whole, nan=0.0))).astype(np.float32)
    flat[np.isnan(laid).any(axis=-1)] = np.nan
    return flat
