"""From the sheet to what light and order need."""

from __future__ import annotations

from paleta.impression import RegionMap
from paleta.light import Body, Zoning
from paleta.order import Job, Work
from paleta.recipe._sheet import Sheet


def bodies_of(sheet: Sheet) -> list[Body]:
    """One body per region, in label order."""
    return [
        Body(regions=(label,), form=setting.form, bulge=setting.bulge, depth=setting.depth, axis_deg=setting.axis_deg)
        for label, setting in sheet.regions.items()
    ]


def zoning_of(sheet: Sheet) -> Zoning:
    """As many zones as the ramp has swatches, or as are planned while there is none; 0 where paper is left."""
    shades = {
        label: 0 if setting.left_as_paper else len(setting.ramp) or setting.shades
        for label, setting in sheet.regions.items()
    }
    return Zoning(shades=shades, true_to_scene=sheet.true_to_scene)


def work_of(sheet: Sheet, region_map: RegionMap) -> Work:
    """A job for every region that has a ramp and is not left as paper."""
    areas = {region.label: region.area_mm2 for region in region_map.regions}
    jobs = tuple(
        Job(region=label, name=setting.name, area_mm2=areas[label], ramp=setting.ramp)
        for label, setting in sheet.regions.items()
        if setting.ramp and not setting.left_as_paper and label in areas
    )
    return Work(jobs=jobs, touching=Work.pairs((border.a, border.b) for border in region_map.borders))
