"""From the sheet to what light and order need."""

from __future__ import annotations

from collections.abc import Mapping

from paleta.impression import RegionMap
from paleta.light import Body, Zoning
from paleta.order import Job, Mask, Work
from paleta.recipe._region import RegionSetting
from paleta.recipe._sheet import Sheet


def bodies_of(sheet: Sheet) -> list[Body]:
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


def zoning_of(sheet: Sheet) -> Zoning:
    """As many zones as the ramp has swatches, or as are planned while there is none, and one more where the highlight
    stays bare; 0 where paper is left."""
    shades = {
        label: 0
        if setting.left_as_paper
        else min(5, (len(setting.ramp) or setting.shades) + (1 if setting.bare_highlight else 0))
        for label, setting in sheet.regions.settings.items()
    }
    bodies = {label: setting.body for label, setting in sheet.regions.settings.items() if setting.body}
    return Zoning(shades=shades, true_to_scene=sheet.light.true_to_scene, bodies=bodies, shade=sheet.light.shade)


CREEPING = {"marker": 32.0, "watercolour": 28.0}
"""Swatches darker than this L* creep past the line. Common practice; the limit is from memory."""


def _job(label: int, setting: RegionSetting, area_mm2: float, shares: tuple[float, ...], rank: int) -> Job:
    """A bare highlight is no zone to lay a pen on: its share goes to the job as what is reserved."""
    reserved = 0.0
    if len(shares) == len(setting.ramp) + 1:
        reserved, shares = shares[-1], shares[:-1]
    return Job(label, setting.name, area_mm2, setting.ramp, shares, reserved, rank)


def work_of(sheet: Sheet, region_map: RegionMap, shares: Mapping[int, tuple[float, ...]]) -> Work:
    """A job for every region that has a ramp and is not left as paper; `shares` as from paleta.light.zone_shares."""
    areas = {region.label: region.area_mm2 for region in region_map.regions}
    ranks = _ranks(sheet)
    jobs = tuple(
        _job(label, setting, areas[label], shares.get(label, ()), ranks.get(setting.role, 1))
        for label, setting in sheet.regions.settings.items()
        if setting.ramp and not setting.left_as_paper and label in areas
    )
    creepers = frozenset(
        code
        for code, swatch in sheet.colours.swatches.items()
        if sheet.colours.medium in CREEPING and swatch.lab[0] < CREEPING[sheet.colours.medium]
    )
    return Work(
        jobs=jobs,
        creepers=creepers,
        touching=Work.pairs((border.a, border.b) for border in region_map.borders),
        masks=_masks(sheet, jobs),
    )


def _ranks(sheet: Sheet) -> dict[str, int]:
    """Which roles have their turn before (0) or after (2) the rest (1). A masked background comes after the figure,
    unless it is wished first; either is common practice."""
    ranks = {"focal": {"focal": 0}, "background": {"background": 0}}.get(sheet.order.wish, {})
    return {"background": 2, **ranks} if sheet.order.masked else ranks


def _masks(sheet: Sheet, jobs: tuple[Job, ...]) -> tuple[Mask, ...]:
    if not sheet.order.masked:
        return ()
    behind = frozenset(job.region for job in jobs if sheet.regions.settings[job.region].role == "background")
    return (Mask(over=frozenset(job.region for job in jobs) - behind, during=behind),) if behind else ()
