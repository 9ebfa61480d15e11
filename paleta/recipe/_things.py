"""Things on the sheet: what Paleta proposes, what is asked, and how things are named."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection
from dataclasses import replace

from paleta.impression import SURE, PairScores
from paleta.light import FORMS
from paleta.recipe._region import RegionSetting, Settings

ASKED = 0.35
"""Things less than SURE are asked about, down to this."""
BODIES_DONE = 0.9
"""Bodies must be surer: shading that runs across what is no one surface is worse than a ramp laid twice."""
SHAPES = "Shapes"
BODY_FIELDS = ("form", "bulge", "axis_deg", "depth", "base_mm", "turn_deg")
"""What belongs to a whole body; changed on one of its regions it changes on all."""


def proposed(weighed: PairScores, settings: Settings) -> tuple[dict[int, RegionSetting], tuple[tuple[int, ...], ...]]:
    """Settings with bodies and things as far as they are sure, and the groups to ask about.

    Regions that belong to a body or a thing already are left alone.

    Parameters
    ----------
    weighed
        As `paleta.impression.weigh` gives.
    settings
        Of all regions, by label.

    Returns
    -------
    Settings of all regions, and groups of labels that only a person can tell.
    """
    sure, likely = weighed.things(SURE), weighed.things(ASKED)
    result = dict(settings)
    for group in weighed.things(BODIES_DONE).parts:
        free = sorted(label for label in group if label in result and _open(result[label]) and not result[label].body)
        # Two that touch may as well be a box on a box.
        if len(free) > 2 or (len(free) == 2 and not weighed.touching(*free)):
            first = result[free[0]]
            shape = {field: getattr(first, field) for field in BODY_FIELDS}
            result |= {label: replace(result[label], body=free[0], **shape) for label in free}
    for group in sure.alike:
        free = sorted(label for label in group if label in result and _open(result[label]) and not result[label].thing)
        if len(free) > 1:
            name = new_name(result, free)
            result |= {label: replace(result[label], thing=name) for label in free}
    done = {frozenset(group) for group in sure.alike}
    asked = tuple(
        tuple(sorted(group))
        for group in likely.alike
        if frozenset(group) not in done and all(label not in settings or _open(settings[label]) for label in group)
    )
    return dict(sorted(result.items())), asked


def _open(setting: RegionSetting) -> bool:
    """Whether it may belong to something: a ground stands for itself."""
    return setting.fade is None


def new_name(settings: Settings, labels: Collection[int]) -> str:
    """A name for a thing of these regions that no other has: what most of them are, and a number.

    Parameters
    ----------
    settings
        Of all regions, by label.
    labels
        Those of the thing.
    """
    form = Counter(settings[label].form for label in labels).most_common(1)[0][0]
    noun = FORMS[form].noun or SHAPES
    taken = {one.thing for one in settings.values()}
    return next(name for number in range(1, len(taken) + 2) if (name := f"{noun} {number}") not in taken)
