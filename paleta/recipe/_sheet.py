"""What the colourist has decided so far: the recipe sheet."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from typing import Any

from paleta.errors import RecipeError
from paleta.light import FORMS, Glow, Lamp
from paleta.media import INKS, MEDIA, PAPERS, Paper, Swatch
from paleta.order import DEFAULT_SCHOOL, SCHOOLS, TOUCHES, School, school_from_plain, school_to_plain

LONGEST_NAME = 60
MOST_TAGS, LONGEST_TAG = 6, 24
ROLES = ("focal", "background")
ORDER_WISHES = ("regions", "focal", "background")
TAGS = (
    "skin", "hair", "fur", "feather", "leaf", "stem", "petal", "berry", "wood", "stone", "metal", "glass", "fabric",
    "paper", "water", "sky", "snow", "sand", "fire",
)  # fmt: skip
"""Words offered for tagging, in the trade's usual order of use (common practice)."""


@dataclass(frozen=True, slots=True)
class RegionSetting:
    """The decisions for one region.

    left_as_paper  nothing is laid here.
    bulge, axis_deg, depth  as in paleta.light.Body.
    body           regions with the same number above 0 form one body; 0 = a body of its own.
    ramp           swatch codes, palest first; empty until chosen.
    wish_lab       the colour the user asked for, if any.
    by_hand        whether the ramp was changed by hand after Paleta proposed it.
    under          codes of the marker ramp beneath, palest first, when pencil goes over marker.
    base_mm, turn_deg  as in paleta.light.Body.
    bare_highlight the lightest spot stays paper: one zone more than the ramp has swatches.
    role           "" or one of ROLES; tags: words that go-tos and the user find regions by.
    guessed        form and depth are still Paleta's first guess.
    """

    name: str
    left_as_paper: bool = False
    form: str = "dome"
    bulge: float = 1.0
    axis_deg: float | None = None
    depth: int = 0
    body: int = 0
    shades: int = 3
    ramp: tuple[str, ...] = ()
    wish_lab: tuple[float, float, float] | None = None
    by_hand: bool = False
    base_mm: tuple[float, float] | None = None
    turn_deg: float = 0.0
    bare_highlight: bool = False
    role: str = ""
    tags: tuple[str, ...] = ()
    guessed: bool = False
    under: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME:
            raise RecipeError(f"A region's name has 1 to {LONGEST_NAME} characters.")
        if self.form not in FORMS:
            raise RecipeError(f"{self.name}: the form must be one of {', '.join(FORMS)}, got {self.form!r}.")
        if not 0.05 <= self.bulge <= 2:
            raise RecipeError(f"{self.name}: bulge must lie in 0.05..2, got {self.bulge}.")
        if not -99 <= self.depth <= 99:
            raise RecipeError(f"{self.name}: depth must lie in -99..99, got {self.depth}.")
        if self.body < 0:
            raise RecipeError(f"{self.name}: bodies are numbered from 1, got {self.body}.")
        if self.axis_deg is not None and not 0 <= self.axis_deg < 360:
            raise RecipeError(f"{self.name}: axis_deg must lie in 0..360, got {self.axis_deg}.")
        if self.shades not in range(1, 6):
            raise RecipeError(f"{self.name}: a region has 1 to 5 shades, got {self.shades}.")
        if not -180 <= self.turn_deg <= 180:
            raise RecipeError(f"{self.name}: turn_deg must lie in -180..180, got {self.turn_deg}.")
        if self.role not in ("", *ROLES):
            raise RecipeError(f"{self.name}: the role must be one of {', '.join(ROLES)}, got {self.role!r}.")
        if len(self.tags) > MOST_TAGS or any(not tag.strip() or len(tag) > LONGEST_TAG for tag in self.tags):
            raise RecipeError(f"{self.name}: up to {MOST_TAGS} tags of 1 to {LONGEST_TAG} characters.")
        if len(self.ramp) > 5 or len(set(self.ramp)) != len(self.ramp):
            raise RecipeError(f"{self.name}: a ramp has up to 5 different swatches.")


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """The whole sheet. `swatches` holds every swatch a ramp names, as measured when it was chosen.

    ink, gap_mm     how the regions were looked for (paleta.impression.find_regions).
    regions_sha256  the packed map they were found on; empty = the one the piece came with.
    edits     changes to the found regions, replayed in order (paleta.impression.apply_edits).
    regions   settings by region label after the edits.
    own_school  a school the user wrote, whole, so that a recipe needs nothing else; else None.
    order_wish  "" for fewest pen changes, or one of ORDER_WISHES.
    masked    the figure lies under a mask while the background is coloured.
    under_swatches  the markers beneath, by code; drawers may use the same codes as others.
    key       how light the picture is meant to be: "" or one of "light", "middle", "night".
    touches   finishing touches by code (paleta.order.TOUCHES); finish and card are notes.
    fronts    (nearer, farther) pairs of regions that the user decided.
    shade     as in paleta.light.Zoning; follow as in paleta.light.illuminate.
    """

    title: str
    outline_ink: str = "dye"
    paper: str = "smooth-white"
    medium: str = "marker"
    school: str = "M1"
    own_school: School | None = None
    order_wish: str = ""
    masked: bool = False
    key: str = ""
    drawer: str = ""
    lamp: Lamp = field(default_factory=lambda: Lamp(azimuth_deg=315, elevation_deg=40))
    glows: tuple[Glow, ...] = ()
    shadows: bool = True
    shade: float = 0.0
    follow: float = 0.0
    true_to_scene: float = 0.0
    ink: float = 0.0
    gap_mm: float = 1.0
    regions_sha256: str = ""
    edits: tuple[Mapping[str, Any], ...] = ()
    fronts: tuple[tuple[int, int], ...] = ()
    regions: Mapping[int, RegionSetting] = field(default_factory=dict)
    swatches: Mapping[str, Swatch] = field(default_factory=dict)
    under_swatches: Mapping[str, Swatch] = field(default_factory=dict)
    finish: str = ""
    touches: tuple[str, ...] = ()
    card: str = ""

    def __post_init__(self) -> None:
        if not self.title.strip() or len(self.title) > 120:
            raise RecipeError("A piece's title has 1 to 120 characters.")
        if self.outline_ink not in INKS:
            raise RecipeError(f"The outline ink must be one of {', '.join(INKS)}, got {self.outline_ink!r}.")
        if self.paper not in PAPERS:
            raise RecipeError(f"The paper must be one of {', '.join(PAPERS)}, got {self.paper!r}.")
        if self.medium not in MEDIA:
            raise RecipeError(f"The medium must be one of {', '.join(MEDIA)}, got {self.medium!r}.")
        if self.school_used.medium != self.medium:
            raise RecipeError(f"{self.school!r} is no school of shade order for {MEDIA[self.medium].lower()}.")
        self._check_light_and_order()
        unknown = [code for code in self.touches if code not in TOUCHES]
        if unknown:
            raise RecipeError(f"{unknown[0]!r} is no finishing touch.")
        if len(self.finish) > 2000 or len(self.card) > 2000:
            raise RecipeError("Notes on finish and card have up to 2,000 characters.")
        for setting in self.regions.values():
            for code in setting.ramp:
                if code not in self.swatches:
                    raise RecipeError(f"{setting.name} uses the swatch {code!r}, which is not on the sheet.")
            if any(code not in self.under_swatches for code in setting.under):
                raise RecipeError(f"{setting.name} lies over a swatch that is not on the sheet.")

    def _check_light_and_order(self) -> None:
        if not 0 <= self.true_to_scene <= 1:
            raise RecipeError(f"true_to_scene must lie in 0..1, got {self.true_to_scene}.")
        if self.own_school is not None and self.own_school.code != self.school:
            raise RecipeError("The sheet names another school than the one written on it.")
        if self.key not in ("", "light", "middle", "night"):
            raise RecipeError(f"key must be light, middle or night, got {self.key!r}.")
        if self.order_wish not in ("", *ORDER_WISHES):
            raise RecipeError(f"order_wish must be one of {', '.join(ORDER_WISHES)}, got {self.order_wish!r}.")
        if not -1 <= self.shade <= 1 or not 0 <= self.follow <= 1:
            raise RecipeError("shade must lie in -1..1 and follow in 0..1.")

    @property
    def school_used(self) -> School:
        """The school by its code: one of the trade's, or the user's own that stands on the sheet."""
        if self.own_school is not None:
            return self.own_school
        if self.school not in SCHOOLS:
            raise RecipeError(f"{self.school!r} is no school of shade order.")
        return SCHOOLS[self.school]

    @property
    def paper_used(self) -> Paper:
        return PAPERS[self.paper]

    def with_regions(self, changed: Mapping[int, RegionSetting], swatches: Mapping[str, Swatch] | None = None) -> Sheet:
        """The sheet with some regions replaced; swatches that no ramp uses any more leave it."""
        regions = {**self.regions, **changed}
        known = {**self.swatches, **(swatches or {})}
        used = {code for setting in regions.values() for code in setting.ramp}
        missing = used - known.keys()
        if missing:
            raise RecipeError(f"There is no swatch {min(missing)!r} in the drawer.")
        return replace(
            self, regions=dict(sorted(regions.items())), swatches={code: known[code] for code in sorted(used)}
        )

    def body_mates(self, label: int) -> tuple[int, ...]:
        """All regions of the body that `label` belongs to, itself among them, rising."""
        body = self.regions[label].body
        if not body:
            return (label,)
        return tuple(other for other, one in self.regions.items() if one.body == body)

    def with_medium(self, medium: str, *, school: str | None = None, drawer: str = "") -> Sheet:
        """The sheet for another medium: ramps of the old one are taken off, the wished colours stay."""
        bare = {label: replace(setting, ramp=(), under=(), by_hand=False) for label, setting in self.regions.items()}
        return replace(
            self,
            medium=medium,
            school=school or DEFAULT_SCHOOL.get(medium, ""),
            own_school=None,
            drawer=drawer,
            regions=bare,
            swatches={},
            under_swatches={},
        )

    def over_itself(self, medium: str, school: str, drawer: str, ramps: Mapping[int, Sequence[Swatch]]) -> Sheet:
        """The sheet with its ramps laid beneath and `ramps` of another medium over them."""
        swatches = {one.code: one for ramp in ramps.values() for one in ramp}
        regions = {
            label: replace(
                setting,
                under=setting.ramp,
                ramp=tuple(one.code for one in ramps[label]) if label in ramps else (),
                shades=len(ramps[label]) if label in ramps else setting.shades,
                by_hand=False,
            )
            for label, setting in self.regions.items()
        }
        return replace(
            self,
            medium=medium,
            school=school,
            own_school=None,
            drawer=drawer,
            regions=regions,
            swatches={code: swatches[code] for code in sorted(swatches)},
            under_swatches=self.swatches,
        )


def sheet_to_plain(sheet: Sheet) -> dict[str, Any]:
    """Only dicts, lists, text and numbers, ready for JSON; `sheet_from_plain` leads back."""
    plain = asdict(sheet)
    plain["touches"] = list(sheet.touches)
    plain["own_school"] = school_to_plain(sheet.own_school) if sheet.own_school else None
    plain["fronts"] = [list(pair) for pair in sheet.fronts]
    plain["edits"] = [dict(edit) for edit in sheet.edits]
    plain["regions"] = [{"label": label, **_setting_to_plain(setting)} for label, setting in sheet.regions.items()]
    plain["under_swatches"] = [swatch_to_plain(swatch) for swatch in sheet.under_swatches.values()]
    plain["swatches"] = [swatch_to_plain(swatch) for swatch in sheet.swatches.values()]
    return whole_numbers(plain)


def whole_numbers(value: Any) -> Any:
    """2.0 and 2 are the same number and must be written the same."""
    if isinstance(value, float) and value.is_integer():
        return int(value)
    if isinstance(value, dict):
        return {key: whole_numbers(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [whole_numbers(item) for item in value]
    return value


def _setting_to_plain(setting: RegionSetting) -> dict[str, Any]:
    return {
        **asdict(setting),
        "ramp": list(setting.ramp),
        "wish_lab": list(setting.wish_lab) if setting.wish_lab else None,
        "base_mm": list(setting.base_mm) if setting.base_mm else None,
        "tags": list(setting.tags),
        "under": list(setting.under),
    }


def swatch_to_plain(swatch: Swatch) -> dict[str, Any]:
    """As it stands in a recipe file; `swatch_from_plain` leads back."""
    return {
        "code": swatch.code,
        "name": swatch.name,
        "medium": swatch.medium,
        "family": swatch.family,
        "lab": list(swatch.lab),
        "paper": swatch.paper.code,
        "two_coats": list(swatch.two_coats) if swatch.two_coats else None,
    }


def sheet_from_plain(plain: Mapping[str, Any]) -> Sheet:
    """A sheet from what `sheet_to_plain` gave.

    Raises
    ------
    RecipeError, LampError, SwatchError
        If a value is impossible. Missing keys and wrong types are the schema's business.
    """
    values = dict(plain)
    values["lamp"] = Lamp(**values["lamp"])
    values["glows"] = tuple(Glow(**glow) for glow in values.get("glows", ()))
    values["touches"] = tuple(values.get("touches", ()))
    own = values.get("own_school")
    values["own_school"] = school_from_plain(own) if own else None
    values["edits"] = tuple(values["edits"])
    values["fronts"] = tuple((nearer, farther) for nearer, farther in values.get("fronts", ()))
    values["regions"] = {item["label"]: _setting_from_plain(item) for item in values["regions"]}
    values["under_swatches"] = {item["code"]: swatch_from_plain(item) for item in values.get("under_swatches", ())}
    values["swatches"] = {item["code"]: swatch_from_plain(item) for item in values["swatches"]}
    return Sheet(**values)


def _setting_from_plain(item: Mapping[str, Any]) -> RegionSetting:
    values = {key: value for key, value in item.items() if key != "label"}
    values["ramp"] = tuple(values["ramp"])
    values["wish_lab"] = tuple(values["wish_lab"]) if values["wish_lab"] else None
    values["base_mm"] = tuple(values["base_mm"]) if values.get("base_mm") else None
    values["tags"] = tuple(values.get("tags", ()))
    values["under"] = tuple(values.get("under", ()))
    return RegionSetting(**values)


def swatch_from_plain(item: Mapping[str, Any]) -> Swatch:
    """A swatch from what `swatch_to_plain` gave."""
    if item["paper"] not in PAPERS:
        raise RecipeError(f"{item['name']}: unknown paper {item['paper']!r}.")
    return Swatch(
        code=item["code"],
        name=item["name"],
        medium=item["medium"],
        lab=tuple(item["lab"]),
        family=item["family"],
        paper=PAPERS[item["paper"]],
        two_coats=tuple(item["two_coats"]) if item.get("two_coats") else None,
    )
