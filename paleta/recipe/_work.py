"""From the sheet to what light and order need."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from paleta.impression import RegionMap
from paleta.light import ACCENTS, Body, Zoning
from paleta.media import DRY_TURN, MEDIUMS
from paleta.order import WIPE, Job, Mask, Work
from paleta.recipe._coat import accents_in_laying_order, zones_covered
from paleta.recipe._derived import once_per_sheet
from paleta.recipe._sheet import Sheet


@once_per_sheet
def bodies_of(sheet: Sheet) -> Sequence[Body]:
    """The bodies of the sheet by their lowest region, which also says their form."""
    mates: dict[int, list[int]] = {}
    for label, lead in sheet.regions.leads().items():
        mates.setdefault(lead, []).append(label)
    settings = {lead: sheet.regions.settings[lead] for lead in mates}
    return [
        Body(
            regions=tuple(mates[lead]),
            form=setting.form,
            bulge=setting.bulge,
            depth=setting.depth,
            axis_deg=setting.axis_deg,
            base_mm=setting.base_mm,
            turn_deg=setting.turn_deg,
        )
        for lead, setting in settings.items()
    ]


@once_per_sheet
def zoning_of(sheet: Sheet) -> Zoning:
    """As many zones as the longest ramp has swatches, or as are planned while there is none, and one more where the
    highlight stays bare; 0 where paper is left. Grounds are zoned by themselves."""
    shades = {
        label: 0 if setting.left_as_paper else min(5, setting.zones + (1 if setting.bare_highlight else 0))
        for label, setting in sheet.regions.settings.items()
    }
    settings = sheet.regions.settings
    return Zoning(
        shades=shades,
        true_to_scene=sheet.light.true_to_scene,
        bodies={label: one.body for label, one in settings.items() if one.body},
        shade=sheet.light.shade,
        apart=frozenset(sheet.regions.fades()),
    )


def touches_of(sheet: Sheet) -> tuple[str, ...]:
    """The finishing touches that come after the last pass: those that were chosen, less the lifting of the mask where
    the plan does that itself, and the wiping of a raised line.

    Parameters
    ----------
    sheet
        What is planned.
    """
    chosen = tuple(code for code in sheet.finish.touches if not (sheet.order.masked and code == "unmask"))
    return (*chosen, WIPE) if sheet.stamp.line.raised and sheet.media else chosen


AFTER_ALL = 3
"""The rank of accents that are no touch of a background."""
FIRST_ACCENT = 10
"""Accents are coats above all others, from this number on."""


def work_of(
    sheet: Sheet,
    region_map: RegionMap,
    shares: Mapping[int, tuple[float, ...]],
    accents: Mapping[tuple[int, str], float] | None = None,
) -> Work:
    """A job for every coat of a region that is not left as paper, and for every accent; `shares` as from
    paleta.light.zone_shares, `accents` the areas in mm2 by region and kind.

    Parameters
    ----------
    sheet
        What is planned.
    region_map
        The sheet's own regions.
    shares
        Of each zone by label, as `paleta.light.zone_shares` gives.
    accents
        Areas in mm2 by (region, kind).
    """
    areas = {region.label: region.area_mm2 for region in region_map.regions}
    ranks, things = _ranks(sheet), sheet.regions.thing_leads()
    behind = ground_rank(sheet)
    jobs: list[Job] = []
    for label, setting in sheet.regions.settings.items():
        if setting.coats and not setting.left_as_paper and label in areas:
            rank = behind if setting.fade is not None and behind is not None else ranks.get(setting.role, 1)
            own = (
                *_coats(sheet, label, areas[label], shares.get(label, ()), rank),
                *_accents(sheet, label, areas[label], accents or {}, rank),
            )
            jobs += (replace(one, thing=things[label]) for one in own)
    creepers = frozenset(
        pen for pen, swatch in sheet.colours.swatches.items() if swatch.lab[0] < MEDIUMS[pen[0]].creeps_below
    )
    return Work(
        jobs=tuple(jobs),
        creepers=creepers,
        touching=Work.pairs((border.a, border.b) for border in region_map.borders),
        masks=_masks(sheet, jobs),
    )


def _coats(sheet: Sheet, label: int, area_mm2: float, shares: tuple[float, ...], rank: int) -> Iterator[Job]:
    """A bare highlight is no zone to lay a pen on: its share goes to the jobs as what is reserved."""
    setting = sheet.regions.settings[label]
    reserved = 0.0
    if len(shares) == setting.zones + 1:
        reserved, shares = shares[-1], shares[:-1]
    for number, coat in enumerate(setting.coats):
        zones = zones_covered(len(coat.ramp), setting.zones)
        own = tuple(round(sum(shares[zone] for zone in covered), 6) for covered in zones) if shares else ()
        yield Job(
            region=label,
            name=setting.name,
            area_mm2=area_mm2,
            ramp=coat.ramp,
            shares=own,
            reserved=reserved,
            rank=rank,
            medium=coat.medium,
            coat=number,
            school=sheet.school_for(coat),
            zones=zones,
            whole=setting.fade is not None,
        )


def _accents(
    sheet: Sheet, label: int, area_mm2: float, accents: Mapping[tuple[int, str], float], rank: int
) -> Iterator[Job]:
    """Accents come after all that is coloured. Touches of a background, and what lies beneath them, come with it; so
    does every accent on a background that is coloured while a mask covers the figure."""
    setting = sheet.regions.settings[label]
    under_mask = sheet.order.masked and setting.role == "background"
    kinds = list(ACCENTS)
    laid = accents_in_laying_order([coat.medium for coat in setting.coats], setting.accents)
    numbers = [kinds.index(accent.kind) for accent in laid]
    if numbers != sorted(numbers):
        numbers = list(range(len(laid)))
    for place, (number, accent) in enumerate(zip(numbers, laid, strict=True)):
        kind = ACCENTS[accent.kind]
        yield Job(
            region=label,
            name=setting.name,
            area_mm2=min(accents.get((label, accent.kind), 0.05 * area_mm2), area_mm2),
            ramp=(accent.code,),
            rank=rank if under_mask or any(ACCENTS[later.kind].background for later in laid[place:]) else AFTER_ALL,
            medium=accent.medium,
            coat=FIRST_ACCENT + number,
            place=kind.place,
            how=kind.how,
        )


def _ranks(sheet: Sheet) -> dict[str, int]:
    """Which roles have their turn before (0) or after (2) the rest (1). A masked background comes after the figure,
    unless it is wished first; either is common practice."""
    ranks = {"focal": {"focal": 0}, "background": {"background": 0}}.get(sheet.order.wish, {})
    return {"background": 2, **ranks} if sheet.order.masked else ranks


def ground_rank(sheet: Sheet) -> int | None:
    """Where backgrounds that fade have their turn if nothing else says so: whole, and before the figure, which covers
    slips; pencil, which keeps off what is wet, after a figure that is not all in pencil. None where a mask or a wish
    says it. Common practice.

    Parameters
    ----------
    sheet
        What is planned.
    """
    if sheet.order.masked or sheet.order.wish:
        return None
    grounds = sheet.regions.fades()

    def dry(behind: bool) -> bool:
        media = {
            coat.medium
            for label, setting in sheet.regions.settings.items()
            for coat in setting.coats
            if (label in grounds) == behind
        }
        return all(MEDIUMS[medium].turn == DRY_TURN for medium in media)

    return 2 if dry(True) and not dry(False) else 0


def _masks(sheet: Sheet, jobs: Sequence[Job]) -> tuple[Mask, ...]:
    """The figure's mask, and tape along the lines between grounds."""
    settings = sheet.regions.settings
    behind = frozenset(job.region for job in jobs if settings[job.region].role == "background")
    masks = []
    if sheet.order.masked and behind:
        masks.append(Mask(over=frozenset(job.region for job in jobs) - behind, during=behind))
    grounds = frozenset(job.region for job in jobs) & sheet.regions.fades().keys()
    if sheet.order.taped and len(grounds) > 1:
        masks.append(Mask(over=frozenset(), during=grounds, kind="tape"))
    return tuple(masks)
