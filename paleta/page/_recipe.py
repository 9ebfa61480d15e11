"""What stands on the one page of a recipe, before it is set: letters, ramps, measured values, the order, the card."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby
from string import ascii_uppercase

from paleta.card import FOLDS, CardPlan, making, show
from paleta.colour import Lab, lab_to_hex
from paleta.impression import RegionMap
from paleta.media import MEDIA
from paleta.order import Pass, Pen, Plan, TouchStep, plan_touches
from paleta.recipe import Sheet, touches_of

ONE_PAGE_THINGS = 60
"""Up to so many lettered things the recipe is promised to go on one page."""
PLAIN_LETTERS = "".join(letter for letter in ascii_uppercase if letter not in "IO")
"""Letters that cannot be taken for figures."""
CAUTION = (
    "Heat tools and solvents: follow the label and the safety data sheet, air the room, never heat wet alcohol ink. "
    "Times are estimates."
)


Coats = tuple[tuple[Pen, ...], ...]


@dataclass(frozen=True, slots=True)
class Lettered:
    """A thing, or those of its regions that have a ramp of their own. x, y: where its letter stands, 0..1.

    coats  the swatches of its coats, lowest coat first and palest first, then those of its accents.
    """

    letter: str
    name: str
    regions: tuple[int, ...]
    coats: Coats
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Chip:
    """A swatch as measured: Lab under D65."""

    pen: Pen
    name: str
    lab: Lab

    @property
    def hex(self) -> str:
        return lab_to_hex(self.lab)


@dataclass(frozen=True, slots=True)
class RampLine:
    """Coats and the letters they go on."""

    letters: tuple[str, ...]
    coats: Coats


@dataclass(frozen=True, slots=True)
class Visit:
    """Passes with one swatch, in a row: where it goes, as "B2" (the second swatch of B), with what is done between."""

    first: int
    last: int
    swatch: Pen
    stops: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class RecipePage:
    """version None: a working copy. facts and notes: what it is about and what it says."""

    title: str
    version: int | None
    light: str
    azimuth_deg: float
    glows: tuple[str, ...]
    lettered: tuple[Lettered, ...]
    bare: tuple[str, ...]
    chips: tuple[Chip, ...]
    ramps: tuple[RampLine, ...]
    visits: tuple[Visit, ...]
    facts: tuple[tuple[str, str], ...]
    notes: tuple[tuple[str, str], ...]

    def chip(self, pen: Pen) -> Chip:
        return next(one for one in self.chips if one.pen == pen)


def letter_of(number: int) -> str:
    """A, B, ... Z without I and O, then AA, AB and so on, counted from 0."""
    count = len(PLAIN_LETTERS)
    first, last = divmod(number, count)
    return (letter_of(first - 1) if first else "") + PLAIN_LETTERS[last]


def recipe_page(
    sheet: Sheet, plan: Plan, region_map: RegionMap, *, version: int | None = None, card: CardPlan | None = None,
    unit: str = "in", touches: Sequence[TouchStep] | None = None,
) -> RecipePage:  # fmt: skip
    """All that stands on the page.

    Parameters
    ----------
    sheet
        the piece as it is set
    plan
        its order
    region_map
        its regions
    version
        which version it is; None: none is kept
    card
        the laid-out card, if there is one
    unit
        in which lengths are written: in, cm or mm
    touches
        finishing touches in their order; None: those of the sheet as `plan_touches` orders them

    Returns
    -------
    All that stands on the page.
    """
    lettered = [*_lettered(sheet, region_map)]
    after = plan_touches(touches_of(sheet), sheet.media) if touches is None else touches
    swatches = sheet.colours.swatches
    used = dict.fromkeys(pen for one in lettered for coat in one.coats for pen in coat)
    lamp = sheet.light.lamp
    return RecipePage(
        title=sheet.stamp.title,
        version=version,
        light=f"Light from {lamp.clock} ({lamp.azimuth_deg:.0f}°), {lamp.elevation_deg:.0f}° high",
        azimuth_deg=lamp.azimuth_deg,
        glows=tuple(
            f"glow {number} at {one.x_mm:.0f}, {one.y_mm:.0f} mm"
            for number, one in enumerate(sheet.light.glows, start=1)
        ),
        lettered=tuple(lettered),
        bare=tuple(one.name for one in sheet.regions.settings.values() if one.left_as_paper),
        chips=tuple(Chip(pen, swatches[pen].name, swatches[pen].lab) for pen in used),
        ramps=tuple(_ramps(lettered)),
        visits=tuple(_visits(plan, lettered)),
        facts=tuple(_facts(sheet, plan, region_map, unit)),
        notes=tuple(_notes(sheet, after, card, unit)),
    )


def _lettered(sheet: Sheet, region_map: RegionMap) -> Iterator[Lettered]:
    """Things in the order of their first region; regions of one thing that have another ramp get a letter as well."""
    height, width = region_map.labels.shape
    measured = {region.label: region for region in region_map.regions}
    groups: dict[tuple[object, Coats], list[int]] = {}
    settings = sheet.regions.settings
    for label, one in settings.items():
        if one.coats:
            accents = tuple((accent.pen,) for accent in one.accents)
            coats = (*(coat.pens for coat in one.coats), *accents)
            groups.setdefault((one.thing or label, coats), []).append(label)
    for number, ((_, coats), labels) in enumerate(groups.items()):
        whole = len({settings[label].thing for label in labels}) == 1 and len(labels) > 1
        name = settings[labels[0]].thing if whole else settings[labels[0]].name
        largest = max((measured[label] for label in labels), key=lambda region: region.area_mm2)
        row, column = largest.anchor
        yield Lettered(letter_of(number), name, tuple(labels), coats, (column + 0.5) / width, (row + 0.5) / height)


def _ramps(lettered: Sequence[Lettered]) -> Iterator[RampLine]:
    letters: dict[Coats, list[str]] = {}
    for one in lettered:
        letters.setdefault(one.coats, []).append(one.letter)
    for coats, those in letters.items():
        yield RampLine(tuple(those), coats)


def _visits(plan: Plan, lettered: Sequence[Lettered]) -> Iterator[Visit]:
    home = {label: one for one in lettered for label in one.regions}
    handled: dict[int, list[str]] = {}
    for step in plan.handling:
        handled.setdefault(step.before_pass, []).append(f"({step.name.lower()})")
    for pen, run in groupby(plan.passes, key=lambda one: one.pen):
        passes = list(run)
        stops: list[str] = []
        for one in passes:
            if one.wait_s > 0:
                stops.append(f"(wait {_minutes(one.wait_s)})")
            stops += handled.get(one.number, ())
            stop = _stop(one, home[one.region])
            if not stops or stops[-1] != stop:
                stops.append(stop)
        yield Visit(passes[0].number, passes[-1].number, pen, tuple(stops))


def _stop(one: Pass, where: Lettered) -> str:
    """B2+ : the second swatch of B, laid while the one before is wet."""
    listed = [pen for coat in where.coats for pen in coat]
    return f"{where.letter}{listed.index(one.pen) + 1}{'+' if one.join == 'wet' else ''}"


def _minutes(seconds: float) -> str:
    return f"{seconds:.0f} s" if seconds < 90 else f"{seconds / 60:.0f} min"


def _facts(sheet: Sheet, plan: Plan, region_map: RegionMap, unit: str) -> Iterator[tuple[str, str]]:
    height, width = region_map.labels.shape
    size = [side / region_map.px_per_mm for side in (width, height)]
    yield "Paper", sheet.stamp.paper_used.weighed_name
    yield "Outline", ": ".join(filter(None, (sheet.stamp.line_said, sheet.stamp.ink_name)))
    per = 25.4 if unit == "in" else 10.0
    yield "Image", f"{size[0] / per:.1f} by {size[1] / per:.1f} {'in' if unit == 'in' else 'cm'}"
    media = [MEDIA[medium] for medium in sheet.media]
    yield "Media" if len(media) > 1 else "Medium", f"{', '.join(media)}; {len(sheet.colours.swatches)} swatches"
    schools = [sheet.order.school_of(medium).name for medium in sheet.media]
    yield "Schools" if len(schools) > 1 else "School", "; ".join(schools)
    for setting in sheet.regions.settings.values():
        if setting.fade is not None:
            yield setting.name, f"fades {setting.fade.words}"
    yield "Order", f"{len(plan.passes)} passes, {plan.pen_changes} pen changes, about {_minutes(plan.duration_s)}"


def _notes(sheet: Sheet, touches: Sequence[TouchStep], card: CardPlan | None, unit: str) -> Iterator[tuple[str, str]]:
    if touches:
        yield (
            "Then",
            "; ".join(
                (f"wait {_minutes(one.wait_s)}, " if one.wait_s > 0 else "") + one.name.lower() for one in touches
            ),
        )
    if card is not None:
        yield "Card", said_card(card, unit)
        steps = making(card.spec, sheet.finish.touches, sheet.media)
        yield (
            "Making",
            "; ".join((f"wait {_minutes(one.wait_s)}, " if one.wait_s > 0 else "") + one.name.lower() for one in steps),
        )
    if sheet.card.notes:
        yield "Card, noted", sheet.card.notes
    if sheet.finish.notes:
        yield "Finish, and what to change next time", sheet.finish.notes


def said_card(card: CardPlan, unit: str) -> str:
    """Sizes of everything on the card, in a sentence.

    Parameters
    ----------
    card
        As `paleta.card.lay_out` gives.
    unit
        "in", "mm" or "cm".
    """
    base = card.spec.base
    parts = [f"{show(base.width, unit)} by {show(base.height, unit)}, {FOLDS[base.fold].said}"]
    if base.shorter:
        parts.append(f"front {show(base.shorter, unit)} shorter")
    if card.scores:
        wide, high = card.open_sheet
        at = " and ".join(str(show(score, unit)) for score in card.scores)
        parts.append(f"from {show(wide, unit)} by {show(high, unit)} scored at {at}")
    for laid in (*card.layers[1:], *((card.inside,) if card.inside else ())):
        foam = f" on {show(laid.foam, 'mm')} foam" if laid.foam else ""
        parts.append(f"{laid.name.lower()} {show(laid.place.width, unit)} by {show(laid.place.height, unit)}{foam}")
    greeting = card.spec.greeting
    if greeting is not None and card.greeting is not None:
        place, kind = card.greeting.place, "strip" if greeting.strip else "stamped"
        parts.append(
            f'"{greeting.text}" {kind}{", embossed" if greeting.embossed else ""}, '
            f"{show(place.x, unit)} from the left and {show(place.y, unit)} from the top"
        )
    if card.spec.cutouts:
        parts.append("cut out: " + ", ".join(f"{one.name} on {show(one.foam, 'mm')} foam" for one in card.spec.cutouts))
    return "; ".join(parts) + f"; {show(card.thickness, 'mm')} thick"


def recipe_text(page: RecipePage) -> str:
    """The recipe as plain text: the list of pens per part that others ask for, then the order."""
    version = f", version {page.version}" if page.version else ", working copy"
    lines = [f"{page.title}{version}", page.light + "".join(f"; {one}" for one in page.glows), ""]
    lines += [f"{name}: {value}" for name, value in page.facts]
    lines += ["", "Pens per part, palest first"]
    for one in page.lettered:
        names = ", then ".join(" · ".join(page.chip(pen).name for pen in coat) for coat in one.coats)
        count = f" ({len(one.regions)})" if len(one.regions) > 1 else ""
        lines.append(f"{one.letter} {one.name}{count}: {names}")
    if page.bare:
        lines.append(f"Left as paper: {', '.join(page.bare)}")
    lines += ["", "Order (B2: second swatch of B; +: while the one before is wet)"]
    lines += [said_visit(page, visit) for visit in page.visits]
    if page.notes:
        lines.append("")
    lines += [f"{name}: {value}" for name, value in page.notes]
    return "\n".join([*lines, "", CAUTION, ""])


def said_visit(page: RecipePage, visit: Visit) -> str:
    """One time a pen is taken up, as a line to read at the table.

    Parameters
    ----------
    page
        the page that the visit stands on
    visit
        of one pen

    Returns
    -------
    Numbers of the passes, the pen's name and where it goes, as one line.
    """
    numbers = str(visit.first) if visit.first == visit.last else f"{visit.first}–{visit.last}"
    return f"{numbers} {page.chip(visit.swatch).name}: {' '.join(visit.stops)}"
