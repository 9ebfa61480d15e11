"""What changed between two versions, in words."""

from __future__ import annotations

from paleta.media import INKS, MEDIA, PAPERS
from paleta.order import TOUCHES
from paleta.recipe._recipe import Recipe
from paleta.recipe._sheet import RegionSetting, Sheet

ORDER_WORDS = {
    "": "fewest pen changes",
    "regions": "region by region",
    "focal": "focal image first",
    "background": "background first",
}


def what_changed(before: Recipe, after: Recipe) -> list[str]:
    """Sentences from the sheet's top to its end; empty if nothing that matters differs."""
    old, new = before.sheet, after.sheet
    lines = [*_stamp(old, new), *_regions(old, new), *_light(old, new), *_colours(old, new)]
    if before.plan.pen_changes != after.plan.pen_changes or len(before.plan.passes) != len(after.plan.passes):
        lines.append(
            f"Order: {len(before.plan.passes)} passes and {before.plan.pen_changes} pen changes became "
            f"{len(after.plan.passes)} and {after.plan.pen_changes}."
        )
    if old.touches != new.touches:
        names = ", ".join(TOUCHES[code].name.lower() for code in new.touches) or "none"
        lines.append(f"Finishing touches: {names} now.")
    for word, one, other in (("Finish", old.finish, new.finish), ("Card", old.card, new.card)):
        if one != other:
            lines.append(f'{word}: "{one or "nothing"}" became "{other or "nothing"}".')
    return lines


def _stamp(old: Sheet, new: Sheet) -> list[str]:
    lines = []
    if old.title != new.title:
        lines.append(f"Title: {old.title} became {new.title}.")
    if old.outline_ink != new.outline_ink:
        lines.append(f"Outline ink: {INKS[old.outline_ink]} became {INKS[new.outline_ink]}.")
    if old.paper != new.paper:
        lines.append(f"Paper: {PAPERS[old.paper].name} became {PAPERS[new.paper].name}.")
    return lines


def _light(old: Sheet, new: Sheet) -> list[str]:
    lines = []
    if old.lamp != new.lamp:
        lines.append(
            f"Light: from {old.lamp.clock}, {old.lamp.elevation_deg:.0f}° high became from {new.lamp.clock}, "
            f"{new.lamp.elevation_deg:.0f}° high."
        )
    if old.shadows != new.shadows:
        lines.append(f"Cast shadows: {'on' if new.shadows else 'off'} now.")
    if (old.shade, old.follow, old.true_to_scene) != (new.shade, new.follow, new.true_to_scene):
        lines.append(
            f"Zones: shade {new.shade:+.0%}, {new.true_to_scene:.0%} true to the scene, "
            f"{new.follow:.0%} after the printed shading."
        )
    if old.glows != new.glows:
        moved = " moved or changed" if len(old.glows) == len(new.glows) else f" became {len(new.glows)}"
        lines.append(f"Glows in the picture: {len(old.glows)}{moved}.")
    return lines


def _colours(old: Sheet, new: Sheet) -> list[str]:
    lines = []
    if old.medium != new.medium:
        lines.append(f"Medium: {MEDIA[old.medium]} became {MEDIA[new.medium]}.")
    if old.school_used != new.school_used:
        lines.append(f"School: {old.school_used.name} became {new.school_used.name}.")
    if old.order_wish != new.order_wish:
        lines.append(f"Order: {ORDER_WORDS[old.order_wish]} became {ORDER_WORDS[new.order_wish]}.")
    if old.key != new.key:
        lines.append(f"Key: {old.key or 'none'} became {new.key or 'none'}.")
    if old.masked != new.masked:
        lines.append("The figure is masked for the background." if new.masked else "The figure is not masked any more.")
    if bool(old.under_swatches) != bool(new.under_swatches):
        lines.append(
            "Pencil goes over the marker now." if new.under_swatches else "There is no marker beneath any more."
        )
    for label in sorted(old.regions.keys() & new.regions.keys()):
        one, other = old.regions[label], new.regions[label]
        if one.ramp != other.ramp:
            lines.append(f"{other.name}: {_names(one, old)} became {_names(other, new)}.")
    for code in sorted(old.swatches.keys() & new.swatches.keys()):
        if old.swatches[code].lab != new.swatches[code].lab:
            lines.append(f"{new.swatches[code].name} was measured anew.")
    return lines


def _names(setting: RegionSetting, sheet: Sheet) -> str:
    return " · ".join(sheet.swatches[code].name for code in setting.ramp) or "no colours"


def _regions(old: Sheet, new: Sheet) -> list[str]:
    lines = []
    if old.edits != new.edits:
        lines.append(f"Regions: {len(old.regions)} became {len(new.regions)}.")
    for label in sorted(old.regions.keys() & new.regions.keys()):
        one, other = old.regions[label], new.regions[label]
        if one.name != other.name:
            lines.append(f"{one.name} is now called {other.name}.")
        if one.left_as_paper != other.left_as_paper:
            lines.append(f"{other.name} is {'left as paper' if other.left_as_paper else 'coloured'} now.")
        if one.role != other.role or one.tags != other.tags:
            words = ", ".join(filter(None, (other.role, *other.tags))) or "nothing"
            lines.append(f"{other.name} is marked as {words} now.")
        if one.bare_highlight != other.bare_highlight:
            lines.append(f"{other.name}: the highlight is {'left bare' if other.bare_highlight else 'coloured'} now.")
        if one.base_mm != other.base_mm or one.turn_deg != other.turn_deg:
            lines.append(f"{other.name}: its base or its own light was moved.")
        if (one.form, one.bulge, one.axis_deg) != (other.form, other.bulge, other.axis_deg):
            lines.append(f"{other.name}: {one.form} became {other.form}, bulge {other.bulge:g}.")
        if one.body != other.body:
            lines.append(f"{other.name} {'joined' if other.body else 'left'} a body.")
        if one.depth != other.depth:
            lines.append(f"{other.name} stands {'nearer' if other.depth > one.depth else 'farther back'} now.")
    return lines
