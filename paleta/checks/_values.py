"""The value guard: before a pen is uncapped, what will not read in light and dark.

All rules are common practice (docs/trade-notes.md, section Values); their limits are from memory.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from paleta.colour import Lab, difference
from paleta.impression import RegionMap
from paleta.recipe import Sheet

KEYS = {"light": (68.0, 101.0), "middle": (48.0, 76.0), "night": (0.0, 52.0)}
"""Mean L* of what is coloured, by the key the picture is meant to have."""
SHALLOW, SHALLOW_BESIDE = 14.0, 0.55
"""Range of L* that shows little depth, and the share of the usual range below which a region stands out as flat."""
ALIKE = 7.0
MERGING_BORDER_MM = 5.0
FOCAL_CONTRAST = 10.0
WHITE_MARGIN, UNSEEN, LEAST_SEEN_MM2 = 4.0, 10.0, 4.0
NIGHT_GROUND, NIGHT_WHITE, WHITE_CHROMA = 40.0, 78.0, 9.0
"""Mean L* below which a ground makes a night of the picture, and above which a thing of so little chroma is white."""
GREENS = (100.0, 190.0)
GREEN_CHROMA = 14.0
GREENS_ALIKE = 6.0

VALUE_KINDS = {
    "no_depth": "No depth",
    "merging": "Neighbours merge",
    "greens_alike": "Greens alike",
    "focal_contrast": "Focal image does not stand out",
    "white_vanishes": "White vanishes",
    "key": "Not in its key",
    "outline_shows": "The outline shows",
    "white_at_night": "White at night",
}
REMEDIES = {
    "deepen": "Take a ramp that goes deeper",
    "other_hue": "Take another hue",
    "set_off": "Make one stand out from the other",
    "paler": "Make it paler",
    "darker": "Make it darker",
    "tint": "Shade it with a touch of grey or lilac",
}


@dataclass(frozen=True, slots=True)
class ValueWarning:
    """What is wrong (kind, one of VALUE_KINDS), where, in a sentence, and what one click does about it.

    remedy  one of REMEDIES; it is done to the regions in `changed`. remedy_words say it on screen.
    """

    kind: str
    regions: tuple[int, ...]
    sentence: str
    remedy: str
    changed: tuple[int, ...]
    remedy_words: str


def value_warnings(
    sheet: Sheet, looks: Mapping[int, Sequence[Lab]], region_map: RegionMap, outline: Lab | None = None
) -> list[ValueWarning]:
    """Warnings for the coloured regions of a sheet, grounds among them; `looks` as from paleta.picture.looks_of,
    `outline` the colour of the stamped line where it was measured.

    Parameters
    ----------
    sheet
        What is planned.
    looks
        Lab of each zone by label, as `paleta.picture.looks_of` gives.
    region_map
        The sheet's own regions.
    outline
        Lab of the stamped line where it was measured.
    """
    areas = {region.label: region.area_mm2 for region in region_map.regions}
    laid = {
        label: np.array(zones, float)
        for label, zones in looks.items()
        if sheet.regions.settings[label].coats and not sheet.regions.settings[label].left_as_paper and label in areas
    }
    if not laid:
        return []
    means = {label: zones.mean(axis=0) for label, zones in laid.items()}
    return [
        *_depth(sheet, laid),
        *_neighbours(sheet, means, region_map),
        *_focal(sheet, means, areas),
        *_whites(sheet, means, areas),
        *_key(sheet, means, areas),
        *_outline(sheet, laid, outline),
        *_at_night(sheet, means, areas),
    ]


def _depth(sheet: Sheet, laid: Mapping[int, np.ndarray]) -> list[ValueWarning]:
    ranges = {label: float(np.ptp(zones[:, 0])) for label, zones in laid.items() if len(zones) > 1}
    if len(ranges) < 2:
        return []
    usual = float(np.median(list(ranges.values())))
    flat = [label for label, span in ranges.items() if span < SHALLOW and span < SHALLOW_BESIDE * usual]
    flat.sort(key=ranges.__getitem__)
    if not flat:
        return []
    verb, least = "falls" if _one(sheet, flat) else "fall", ranges[flat[0]]
    fall = f"{verb} by {least:.0f} in lightness where most fall by {usual:.0f}"
    sentence = f"{_named(sheet, flat)} {fall}: no depth beside the rest."
    return [ValueWarning("no_depth", tuple(flat), sentence, "deepen", tuple(flat), REMEDIES["deepen"])]


def _named(sheet: Sheet, labels: Sequence[int]) -> str:
    """The first few of them by name; a thing is named once."""
    names = list(dict.fromkeys(_spoken(sheet, label) for label in labels))
    if len(names) <= 3:
        return ", ".join(names[:-1]) + (" and " if len(names) > 1 else "") + names[-1]
    return f"{names[0]}, {names[1]} and {len(names) - 2} more"


def _one(sheet: Sheet, labels: Sequence[int]) -> bool:
    """Whether they are spoken of as one: a thing by its name, unless the name is of many."""
    names = {_spoken(sheet, label) for label in labels}
    return len(names) == 1 and not next(iter(names)).endswith("s")


def _spoken(sheet: Sheet, label: int) -> str:
    setting = sheet.regions.settings[label]
    return setting.thing or setting.name


def _neighbours(sheet: Sheet, means: Mapping[int, np.ndarray], region_map: RegionMap) -> list[ValueWarning]:
    """What lies side by side and cannot be told apart: once for all that are alike for the same ramps, however many
    things and borders they share, and the least apart first."""
    leads = sheet.regions.thing_leads()
    close: dict[tuple[str, frozenset[object]], list[tuple[float, int, int]]] = defaultdict(list)
    for border in region_map.borders:
        if border.a not in means or border.b not in means or border.length_mm < MERGING_BORDER_MM:
            continue
        one, other = sheet.regions.settings[border.a], sheet.regions.settings[border.b]
        if leads[border.a] == leads[border.b] or (one.body and one.body == other.body):
            continue
        apart = float(difference(means[border.a], means[border.b]))
        first, second = sorted((border.a, border.b), key=lambda label: leads[label])
        ramps = frozenset((one.coats, other.coats))
        if apart < GREENS_ALIKE and _green(means[border.a]) and _green(means[border.b]):
            close["greens_alike", ramps].append((apart, first, second))
        elif apart < ALIKE and one.coats != other.coats:
            close["merging", ramps].append((apart, first, second))
    return [
        _side_by_side(sheet, kind, sorted(pairs), leads, means)
        for (kind, _), pairs in sorted(close.items(), key=lambda item: (min(item[1]), item[0][0]))
    ]


def _side_by_side(
    sheet: Sheet,
    kind: str,
    pairs: Sequence[tuple[float, int, int]],
    leads: Mapping[int, int],
    coloured: Mapping[int, object],
) -> ValueWarning:
    """One line for pairs of the same ramps. Of each pair one thing is changed, in all its coloured regions that have a
    ramp at fault, and as few things as will do."""
    settings, things = sheet.regions.settings, set[int]()
    for _, one, other in pairs:
        if leads[one] not in things and leads[other] not in things:
            things.add(leads[other])
    regions = tuple(sorted({label for _, *pair in pairs for label in pair}))
    faulty = {settings[label].coats for label in regions if leads[label] in things}
    changed = tuple(sorted(one for one in coloured if leads[one] in things and settings[one].coats in faulty))
    apart, one, other = pairs[0]
    first, second = _spoken(sheet, one), _spoken(sheet, other)
    alone = len({(leads[a], leads[b]) for _, a, b in pairs}) == 1
    who = f"{first} and {second}" if alone else _named(sheet, [label for _, *pair in pairs for label in pair])
    others = second if alone else _named(sheet, changed)
    if kind == "greens_alike":
        sentence = f"{who} grow side by side in the same green."
        return ValueWarning(kind, regions, sentence, "other_hue", changed, f"Give {others} another green")
    sentence = f"{who} are only {apart:.0f} apart{'' if alone else ' where they touch'}: they will merge."
    return ValueWarning(kind, regions, sentence, "set_off", changed, f"Make {others} stand out")


def _focal(sheet: Sheet, means: Mapping[int, np.ndarray], areas: Mapping[int, float]) -> list[ValueWarning]:
    roles = {label: sheet.regions.settings[label].role for label in means}
    groups = {role: [label for label in means if roles[label] == role] for role in ("focal", "background")}
    if not all(groups.values()):
        return []
    light = {
        role: float(np.average([means[label][0] for label in labels], weights=[areas[label] for label in labels]))
        for role, labels in groups.items()
    }
    apart = abs(light["focal"] - light["background"])
    if apart >= FOCAL_CONTRAST:
        return []
    remedy, behind = "paler" if light["background"] >= light["focal"] else "darker", tuple(groups["background"])
    return [
        ValueWarning(
            "focal_contrast",
            behind,
            f"The focal image and its background are only {apart:.0f} apart in lightness: it will not stand out.",
            remedy,
            behind,
            f"Make the background {remedy}",
        )
    ]


def _whites(sheet: Sheet, means: Mapping[int, np.ndarray], areas: Mapping[int, float]) -> list[ValueWarning]:
    """What looks like its paper; what is lighter than toned paper stands out as well as what is darker, and a red on a
    grey as light."""
    paper = sheet.stamp.paper_used.lab
    lost = [
        label
        for label, mean in means.items()
        if abs(mean[0] - paper[0]) < WHITE_MARGIN
        and float(difference(mean, paper)) < UNSEEN
        and areas[label] > LEAST_SEEN_MM2
    ]
    lost.sort(key=lambda label: -areas[label])
    if not lost:
        return []
    sentence = f"{_named(sheet, lost)} {'is' if _one(sheet, lost) else 'are'} as light as the paper and will vanish."
    return [ValueWarning("white_vanishes", tuple(lost), sentence, "tint", tuple(lost), REMEDIES["tint"])]


def _key(sheet: Sheet, means: Mapping[int, np.ndarray], areas: Mapping[int, float]) -> list[ValueWarning]:
    if not sheet.colours.key or len(means) < 2:
        return []
    weights = [areas[label] for label in means]
    light = float(np.average([mean[0] for mean in means.values()], weights=weights))
    low, high = KEYS[sheet.colours.key]
    if low <= light <= high:
        return []
    # The one to change is far outside the key itself: not the largest, whose lightness may be nearly right. Squares, as
    # what is twice as far off is seen more than twice as much.
    outside = {label: max(low - mean[0] if light < low else mean[0] - high, 0.0) for label, mean in means.items()}
    worst = max(means, key=lambda label: areas[label] * outside[label] ** 2)
    too = "dark" if light < low else "light"
    sentence = f"The picture comes to L* {light:.0f}: too {too} for {sheet.colours.key} key."
    remedy = "paler" if light < low else "darker"
    words = f"Make {sheet.regions.settings[worst].name} {remedy}"
    return [ValueWarning("key", (worst,), sentence, remedy, (worst,), words)]


def _outline(sheet: Sheet, laid: Mapping[int, np.ndarray], outline: Lab | None) -> list[ValueWarning]:
    """No-line work: an outline that is darker than the palest shade beside it does not vanish in the colouring."""
    if outline is None or not sheet.stamp.line.unseen:
        return []
    shown = [label for label, zones in laid.items() if zones[:, 0].max() > outline[0] + WHITE_MARGIN]
    shown.sort(key=lambda label: -laid[label][:, 0].max())
    if not shown:
        return []
    sentence = (
        f"The pale outline comes to L* {outline[0]:.0f} and is darker than the palest shade of "
        f"{_named(sheet, shown)}: it will show."
    )
    return [ValueWarning("outline_shows", tuple(shown), sentence, "darker", tuple(shown), REMEDIES["darker"])]


def _at_night(sheet: Sheet, means: Mapping[int, np.ndarray], areas: Mapping[int, float]) -> list[ValueWarning]:
    """In a night scene even white things are shaded with a middle grey, so that the few untouched whites sparkle."""
    settings = sheet.regions.settings
    dark = any(settings[label].fade is not None and mean[0] < NIGHT_GROUND for label, mean in means.items())
    if not dark and sheet.colours.key != "night":
        return []
    white = [
        label
        for label, mean in means.items()
        if settings[label].fade is None
        and mean[0] > NIGHT_WHITE
        and float(np.hypot(mean[1], mean[2])) < WHITE_CHROMA
        and areas[label] > LEAST_SEEN_MM2
    ]
    white.sort(key=lambda label: -areas[label])
    if not white:
        return []
    be = "is" if _one(sheet, white) else "are"
    sentence = f"{_named(sheet, white)} {be} as white as by day: a middle grey suits night."
    return [ValueWarning("white_at_night", tuple(white), sentence, "darker", tuple(white), REMEDIES["darker"])]


def _green(lab: np.ndarray) -> bool:
    hue = float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)
    return GREENS[0] <= hue <= GREENS[1] and float(np.hypot(lab[1], lab[2])) >= GREEN_CHROMA
