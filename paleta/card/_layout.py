"""Every size and place of a card, exactly; and what speaks against it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from paleta.card._length import ZERO, Length, inches, millimetres, show
from paleta.card._picture import Picture, Place
from paleta.card._sizes import ENVELOPES
from paleta.card._spec import FOAM_LESS, REVEAL, CardSpec, Greeting, Layer, open_size
from paleta.order import TOUCHES

CARD_WARNINGS = {
    "hangs over": "Larger than what it lies on",
    "foam shows": "Foam that shows",
    "over": "The greeting covers something",
    "envelope": "Does not fit the envelope",
    "thick": "Too thick to lie flat",
    "off the scan": "Larger than the picture",
    "cut away": "Coloured for nothing",
    "greeting off": "The greeting hangs over",
    "press": "No roller press",
    "grain": "Grain not known",
}
MICRONS_PER_GSM = Fraction(13, 10)
"""Thickness of card by its weight. From memory, common practice: 300 g/m2 is about 0.4 mm."""
UNKNOWN_GSM = 280
GEMS_MM = Fraction(3)
"""Height of small gems. From memory."""
FLAT_MOST = millimetres(3)
"""What lies flat in an envelope. From memory, common practice."""
ENVELOPE_ROOM = inches("1/8")
"""How much smaller overall than its envelope a card is (common practice)."""
COVERED_MUCH = 0.25
HIDDEN = 0.95


@dataclass(frozen=True, slots=True)
class Laid:
    """A piece in its place, from the front's top left corner. kind: base, mat, panel, greeting, inside, foam,
    cut-out (by the box round it)."""

    kind: str
    name: str
    place: Place
    stock: str
    foam: Length


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece to cut for one card.

    along              the side that the grain runs along, "" where that is all the same.
    score, score_down  where it is scored: how far from its left edge, downwards, or from its top edge, across.
    """

    name: str
    width: Length
    height: Length
    stock: str
    along: str = ""
    count: int = 1
    score: Length | None = None
    score_down: bool = True


@dataclass(frozen=True, slots=True)
class CardWarning:
    """A code of CARD_WARNINGS, whom it is about, a sentence, and the spec that would mend it, if one does."""

    code: str
    about: str
    sentence: str
    remedy: str = ""
    mended: CardSpec | None = None


@dataclass(frozen=True, slots=True)
class CardPlan:
    """All sizes and places of one card.

    open_sheet, score  the base before folding, and how far from its left (side fold) or top edge it is scored.
    layers             from the base up; foams lie beneath the layer of the same name.
    inside             on the inside of the back.
    raised             what is cut out and stands above its place.
    crop               where the panel lies on the picture; rough: what is cut before colouring, larger by the trim.
    covered            what the greeting covers: name and share of it, most first.
    """

    spec: CardSpec
    stamped_gsm: float
    open_sheet: tuple[Length, Length]
    score: Length | None
    layers: tuple[Laid, ...]
    foams: tuple[Laid, ...]
    greeting: Laid | None
    inside: Laid | None
    raised: tuple[Laid, ...]
    crop: Place | None
    rough: Place | None
    covered: tuple[tuple[str, float], ...]
    pieces: tuple[Piece, ...]
    thickness: Length
    warnings: tuple[CardWarning, ...]

    @property
    def front(self) -> Place:
        return self.layers[0].place

    @property
    def panel(self) -> Laid:
        return self.layers[-1]


def lay_out(
    spec: CardSpec, picture: Picture | None = None, touches: Sequence[str] = (), *, stamped_gsm: float = 0.0
) -> CardPlan:
    """Sizes and places of everything on the card, with warnings.

    picture      what it is made for; without it nothing is said about crop and cover.
    touches      finishing touches by code (paleta.order.TOUCHES): gems make a card thick.
    stamped_gsm  weight of the paper that was stamped, in g/m2; 0: not known.
    """
    base = spec.base
    layers = [Laid("base", "Base", Place(ZERO, ZERO, base.width, base.height), base.stock, ZERO)]
    for number, mat in enumerate(spec.mats, 1):
        layers.append(_on(layers[-1], mat, "mat", "Mat" if len(spec.mats) == 1 else f"Mat {number}"))
    layers.append(_on(layers[-1], spec.panel, "panel", "Picture"))
    foams = [*_foams(layers, spec)]
    greeting = _greeting(spec.greeting) if spec.greeting else None
    inside = None
    if spec.inside is not None and spec.inside.panel:
        inside = _on(layers[0], Layer(reveal=spec.inside.reveal, stock=spec.inside.stock), "inside", "Panel inside")
    crop = _crop(spec, layers[-1].place, picture) if picture else None
    trim = spec.panel.trim
    rough = (
        Place(crop.x - trim, crop.y - trim, crop.width + trim * 2, crop.height + trim * 2) if crop is not None else None
    )
    plan = CardPlan(
        spec=spec,
        stamped_gsm=stamped_gsm,
        open_sheet=open_size(base),
        score={"side": base.width, "top": base.height}.get(base.fold),
        layers=tuple(layers),
        foams=tuple(foams),
        greeting=greeting,
        inside=inside,
        raised=tuple(_raised(spec, layers[-1].place, crop, picture)),
        crop=crop,
        rough=rough,
        covered=tuple(_covered(picture, crop, layers[-1].place, greeting)),
        pieces=tuple(_pieces(spec, layers, foams, inside)),
        thickness=ZERO,
        warnings=(),
    )
    plan = replace(plan, thickness=_thickness(plan, touches))
    return replace(plan, warnings=tuple(_warnings(plan, picture)))


def on_picture(plan: CardPlan, place: Place) -> Place | None:
    """A place on the front as a place on the picture."""
    if plan.crop is None:
        return None
    panel = plan.panel.place
    return place.moved(plan.crop.x - panel.x, plan.crop.y - panel.y)


def _on(carrier: Laid, layer: Layer, kind: str, name: str) -> Laid:
    below = carrier.place
    width = layer.width or below.width - layer.reveal * 2
    height = layer.height or below.height - layer.reveal * 2
    if min(width, height) <= ZERO:
        # Nothing is left of it; what carries it is at fault, and the smallest piece says so in a warning.
        width, height = max(width, inches("1/16")), max(height, inches("1/16"))
    x = below.x + (below.width - width) / 2 + layer.right
    y = below.y + (below.height - height) / 2 + layer.down
    return Laid(kind, name, Place(x, y, width, height), layer.stock, layer.foam)


def _foams(layers: Sequence[Laid], spec: CardSpec) -> Iterator[Laid]:
    for laid, layer in zip(layers[1:], spec.layers, strict=True):
        place, less = laid.place, layer.foam_less
        # A layer that is hardly larger than that gets glue, and no foam that could be cut.
        if layer.foam and less < min(place.width, place.height):
            yield Laid(
                "foam",
                laid.name,
                Place(place.x + less / 2, place.y + less / 2, place.width - less, place.height - less),
                "",
                layer.foam,
            )


def _greeting(one: Greeting) -> Laid:
    name = "Greeting strip" if one.strip else "Greeting"
    return Laid("greeting", name, Place(one.x, one.y, one.width, one.height), one.stock, one.foam)


def _raised(spec: CardSpec, panel: Place, crop: Place | None, picture: Picture | None) -> Iterator[Laid]:
    for one in spec.cutouts:
        box = picture.box_of(one.regions) if picture is not None else None
        if box is not None and crop is not None:
            wide = Place(
                box.x - one.margin, box.y - one.margin, box.width + one.margin * 2, box.height + one.margin * 2
            )
            yield Laid("cut-out", one.name, wide.moved(panel.x - crop.x, panel.y - crop.y), "", one.foam)


def _crop(spec: CardSpec, panel: Place, picture: Picture) -> Place:
    """Where the panel lies on the picture: as it was put, or so that the figure stands in its middle, within the scan
    as far as it goes."""
    whole, (x, y) = picture.whole, (spec.panel.crop_x, spec.panel.crop_y)
    if x is None or y is None:
        middle = picture.middle()
        x = _within(middle[0] - panel.width / 2, whole.width - panel.width)
        y = _within(middle[1] - panel.height / 2, whole.height - panel.height)
    return Place(x, y, panel.width, panel.height)


def _within(value: Length, most: Length) -> Length:
    """Between nought and the most, or in the middle where there is no room."""
    return most / 2 if most < ZERO else min(max(value, ZERO), most)


def _covered(
    picture: Picture | None, crop: Place | None, panel: Place, greeting: Laid | None
) -> Iterator[tuple[str, float]]:
    if picture is None or crop is None or greeting is None:
        return
    spot = greeting.place.moved(crop.x - panel.x, crop.y - panel.y)
    shares = picture.shares_in(spot)
    for number in sorted(shares, key=lambda one: -shares[one]):
        yield picture.things[number].name, shares[number]


def _pieces(spec: CardSpec, layers: Sequence[Laid], foams: Sequence[Laid], inside: Laid | None) -> Iterator[Piece]:
    """What is cut for one card. The picture's own paper is cut from what was stamped, unless it names sheets."""
    width, height = open_size(spec.base)
    along = {"side": "height", "top": "width"}.get(spec.base.fold, "") if spec.base.with_grain else ""
    score = {"side": spec.base.width, "top": spec.base.height}.get(spec.base.fold)
    yield Piece("Base", width, height, spec.base.stock, along, score=score, score_down=spec.base.fold == "side")
    pictures = 2 if spec.pull_out else 1
    for laid in layers[1:]:
        size = laid.place
        if laid.kind == "panel":
            trim = spec.panel.trim * 2
            yield Piece(laid.name, size.width + trim, size.height + trim, laid.stock, "", pictures)
        else:
            yield Piece(laid.name, size.width, size.height, laid.stock)
    if inside is not None:
        yield Piece(inside.name, inside.place.width, inside.place.height, inside.stock)
    if spec.greeting is not None and spec.greeting.strip:
        yield Piece("Greeting strip", spec.greeting.width, spec.greeting.height, spec.greeting.stock)
    for foam in foams:
        yield Piece(f"Foam under {foam.name.lower()}", foam.place.width, foam.place.height, "foam")


@dataclass(frozen=True, slots=True)
class Slab:
    """One piece as the card is seen from its lower edge: how high it begins, how thick it is, whether it is foam."""

    name: str
    place: Place
    stock: str
    lift: Length
    thick: Length
    foam: bool = False


def stack(plan: CardPlan) -> list[Slab]:
    """Everything on top of each other, from the table up: back, inside, front, layers, greeting strip, cut-outs."""
    spec, base = plan.spec, plan.layers[0]
    slabs: list[Slab] = []
    lift = ZERO

    def lay(name: str, laid: Laid, foam_place: Place | None = None) -> None:
        nonlocal lift
        if laid.foam:
            under = f"Foam under {name.lower()}"
            slabs.append(Slab(under, foam_place or laid.place, "", lift, laid.foam, foam=True))
            lift += laid.foam
        # The picture, and what is cut out of a second one, are on what was stamped unless other sheets are named.
        stamped = laid.kind in ("panel", "cut-out") and not laid.stock
        thick = paper_thickness(plan.stamped_gsm) if stamped else _paper(spec, laid.stock)
        slabs.append(Slab(name, laid.place, laid.stock, lift, thick))
        lift += thick

    if spec.base.fold != "flat":
        lay("Back", base)
    if plan.inside is not None:
        lay(plan.inside.name, plan.inside)
    beneath = {foam.name: foam.place for foam in plan.foams}
    for laid in plan.layers:
        name = "Front" if laid.kind == "base" else laid.name
        lay(name, laid, beneath.get(laid.name))
    strip = plan.greeting if spec.greeting is not None and spec.greeting.strip else None
    top = lift
    for one in (*([strip] if strip else []), *plan.raised):
        lift = top
        lay(one.name, one)
    return slabs


def _paper(spec: CardSpec, stock: str) -> Length:
    known = spec.stock_named(stock)
    return paper_thickness(known.gsm if known else 0)


def paper_thickness(gsm: float) -> Length:
    """How thick a card of this weight is, to a hundredth of a millimetre."""
    microns = Fraction(gsm or UNKNOWN_GSM) * MICRONS_PER_GSM
    return Length(Fraction(round(microns / 10), 100))


def _thickness(plan: CardPlan, touches: Sequence[str]) -> Length:
    """At its thickest place. Cut-outs count even where it is not known where they stand, and gems may sit on them."""
    slabs = stack(plan)
    panel = next(slab for slab in slabs if slab.name == plan.panel.name)
    top = panel.lift + panel.thick
    tops = [top + one.foam + paper_thickness(plan.stamped_gsm) for one in plan.spec.cutouts]
    gems = Length(GEMS_MM) if "gems" in touches and "gems" in TOUCHES else ZERO
    return max([top + gems, *tops, *(slab.lift + slab.thick for slab in slabs)])


def _warnings(plan: CardPlan, picture: Picture | None) -> Iterator[CardWarning]:
    yield from _hanging_over(plan)
    yield from _showing_foam(plan, picture)
    yield from _about_greeting(plan, picture)
    yield from _about_post(plan)
    yield from _about_picture(plan, picture)
    stock = plan.spec.stock_named(plan.spec.base.stock)
    if plan.spec.base.with_grain and plan.spec.base.fold != "flat" and stock is not None and not stock.grain:
        yield CardWarning(
            "grain", "Base", f"It is not said which way the grain of {stock.name} runs; a fold against it cracks."
        )


def _hanging_over(plan: CardPlan) -> Iterator[CardWarning]:
    spec = plan.spec
    for number, (below, laid) in enumerate(zip(plan.layers, plan.layers[1:], strict=False)):
        if below.place.holds(laid.place):
            continue
        too_large = laid.place.width > below.place.width or laid.place.height > below.place.height
        how = "is larger than" if too_large else "hangs over the edge of"
        # Where nothing is left between its reveals, less of them must do.
        layer = spec.layers[number]
        reveal = min(layer.reveal, min(below.place.width, below.place.height) / 4, REVEAL)
        yield CardWarning(
            "hangs over", laid.name, f"{laid.name} {how} {below.name.lower()}, which carries it.",
            f"Let {show(reveal)} of {below.name.lower()} show all round",
            spec.with_layer(number, width=None, height=None, right=ZERO, down=ZERO, reveal=reveal),
        )  # fmt: skip


def _showing_foam(plan: CardPlan, picture: Picture | None) -> Iterator[CardWarning]:
    spec = plan.spec
    for number, layer in enumerate(spec.layers):
        if layer.foam and layer.foam_less < FOAM_LESS:
            name = plan.layers[number + 1].name
            yield CardWarning(
                "foam shows", name, f"Foam of nearly the size of {name.lower()} shows at its edges.",
                f"Cut it {show(FOAM_LESS)} smaller", spec.with_layer(number, foam_less=FOAM_LESS),
            )  # fmt: skip
    if picture is None:
        return
    for one in spec.cutouts:
        wide = millimetres(str(round(picture.widest_mm(one.regions), 1))) + one.margin * 2
        if one.foam and wide < FOAM_LESS * 2:
            yield CardWarning(
                "foam shows", one.name,
                f"{one.name} is nowhere wider than {show(wide, 'mm')}: foam beneath it will show. Glue it down, "
                "or cut it out together with what it grows from.",
                "Glue it down flat",
                replace(spec, cutouts=tuple(replace(it, foam=ZERO) if it == one else it for it in spec.cutouts)),
            )  # fmt: skip


def _about_greeting(plan: CardPlan, picture: Picture | None) -> Iterator[CardWarning]:
    spec, laid = plan.spec, plan.greeting
    if laid is None or spec.greeting is None:
        return
    if not plan.front.holds(laid.place):
        x = _within(laid.place.x, plan.front.width - laid.place.width)
        y = _within(laid.place.y, plan.front.height - laid.place.height)
        yield CardWarning(
            "greeting off", laid.name, "The greeting hangs over the edge of the card.", "Move it onto the card",
            spec.changed("greeting", x=x, y=y, width=min(laid.place.width, plan.front.width),
                         height=min(laid.place.height, plan.front.height)),
        )  # fmt: skip
    spot = on_picture(plan, laid.place)
    if picture is not None and spot is not None and plan.crop is not None:
        shares = picture.shares_in(spot)
        focal = {number for number, thing in enumerate(picture.things) if thing.focal}
        over = [number for number in shares if number in focal and shares[number] >= 0.02] or [
            number
            for number in shares
            if not focal and picture.things[number].figure and shares[number] >= COVERED_MUCH
        ]
        if over:
            first = max(over, key=lambda number: shares[number])
            clear = picture.clearest(spot, plan.crop)
            offset = plan.panel.place.x - plan.crop.x, plan.panel.place.y - plan.crop.y
            there = clear.moved(*offset)
            better = clear != spot and max(picture.shares_in(clear).get(number, 0.0) for number in over) < shares[first]
            yield CardWarning(
                "over", picture.things[first].name,
                f"The greeting covers {shares[first]:.0%} of {picture.things[first].name}"
                f"{', what the eye shall rest on' if first in focal else ''}.",
                "Move it where it covers least" if better else "",
                spec.changed("greeting", x=there.x, y=there.y) if better else None,
            )  # fmt: skip
    if spec.greeting.embossed:
        yield CardWarning(
            "press", laid.name, "What is embossed with heat must not go through a roller press: its shine goes. "
            "Emboss before anything is layered, away from wet alcohol ink.",
        )  # fmt: skip


def _about_post(plan: CardPlan) -> Iterator[CardWarning]:
    spec, front = plan.spec, plan.front
    if spec.envelope:
        size = ENVELOPES[spec.envelope]
        room = ENVELOPE_ROOM if plan.thickness <= FLAT_MOST else ENVELOPE_ROOM + plan.thickness
        sides = sorted((front.width, front.height))
        if sides[0] + room > size.width or sides[1] + room > size.height:
            fits = [
                code
                for code, one in sorted(ENVELOPES.items(), key=lambda item: item[1].width.mm * item[1].height.mm)
                if sides[0] + room <= one.width and sides[1] + room <= one.height
            ]
            yield CardWarning(
                "envelope", "Envelope",
                f"The card of {show(front.width)} by {show(front.height)}, {show(plan.thickness, 'mm')} thick, does "
                f"not go into the envelope {size.name}.",
                f"Take {ENVELOPES[fits[0]].name}" if fits else "",
                replace(spec, envelope=fits[0]) if fits else None,
            )  # fmt: skip
    if plan.thickness > FLAT_MOST:
        yield CardWarning(
            "thick", "Card",
            f"At its thickest the card measures about {show(plan.thickness, 'mm')}: it does not lie flat. Measure it "
            "in its envelope and ask your carrier what that means for the postage.",
        )  # fmt: skip


def _about_picture(plan: CardPlan, picture: Picture | None) -> Iterator[CardWarning]:
    if picture is None or plan.crop is None:
        return
    if not picture.whole.holds(plan.crop):
        fits = plan.crop.width <= picture.whole.width and plan.crop.height <= picture.whole.height
        x = _within(plan.crop.x, picture.whole.width - plan.crop.width)
        y = _within(plan.crop.y, picture.whole.height - plan.crop.height)
        yield CardWarning(
            "off the scan", "Picture",
            "The panel reaches beyond the picture that was scanned."
            + ("" if fits else " It is larger than the picture: beyond it there is only paper."),
            "Move it onto the picture" if fits else "",
            plan.spec.changed("panel", crop_x=x, crop_y=y) if fits else None,
        )  # fmt: skip
    hidden = dict(picture.shares_in(plan.crop))
    strip = plan.greeting is not None and plan.spec.greeting is not None and plan.spec.greeting.strip
    spot = on_picture(plan, plan.greeting.place) if strip and plan.greeting is not None else None
    for number, share in picture.shares_in(spot).items() if spot is not None else ():
        hidden[number] = hidden.get(number, 0.0) - share
    lost = [thing.name for number, thing in enumerate(picture.things) if hidden.get(number, 0.0) <= 1 - HIDDEN]
    if lost:
        named = ", ".join(lost[:4]) + (f" and {len(lost) - 4} more" if len(lost) > 4 else "")
        yield CardWarning("cut away", named, f"Cut away or covered on the card: {named}. No need to colour it.")
