"""Every size and place of a card, exactly."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from paleta.card._folds import FOLDS
from paleta.card._length import ZERO, inches
from paleta.card._picture import Picture, Place
from paleta.card._plan import CardPart, CardPlan, PlacedLayer, within
from paleta.card._spec import Base, CardLayer, CardSpec, Greeting, open_size
from paleta.card._stack import thickness_of
from paleta.card._warnings import warnings_of


def lay_out(
    spec: CardSpec, picture: Picture | None = None, touches: Sequence[str] = (), *, stamped_gsm: float = 0.0
) -> CardPlan:
    """Sizes and places of everything on the card, with warnings.

    Parameters
    ----------
    spec
        the card: sizes, layers, greeting, finishing, in mm
    picture
        what it is made for; without it nothing is said about crop and cover
    touches
        finishing touches by code (paleta.order.TOUCHES): gems make a card thick
    stamped_gsm
        weight of the paper that was stamped, in g/m2; 0: not known

    Returns
    -------
    Every part with its size and place in mm, and the warnings.
    """
    base = spec.base
    layers = [PlacedLayer("base", "Base", _front(base), base.stock, ZERO)]
    for number, mat in enumerate(spec.mats, 1):
        layers.append(_on(layers[-1], mat, "mat", "Mat" if len(spec.mats) == 1 else f"Mat {number}"))
    layers.append(_on(layers[-1], spec.panel, "panel", "Picture"))
    foams = [*_foams(layers, spec)]
    greeting = _greeting(spec.greeting) if spec.greeting else None
    inside = None
    if spec.inside is not None and spec.inside.panel:
        back = PlacedLayer("base", "Base", Place(ZERO, ZERO, base.width, base.height), base.stock, ZERO)
        inside = _on(back, CardLayer(reveal=spec.inside.reveal, stock=spec.inside.stock), "inside", "Panel inside")
    crop = _crop(spec, layers[-1].place, picture) if picture else None
    trim = spec.panel.trim
    rough = (
        Place(crop.x - trim, crop.y - trim, crop.width + trim * 2, crop.height + trim * 2) if crop is not None else None
    )
    plan = CardPlan(
        spec=spec,
        stamped_gsm=stamped_gsm,
        open_sheet=open_size(base),
        scores=base.scores,
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
    plan = replace(plan, thickness=thickness_of(plan, touches))
    return replace(plan, warnings=tuple(warnings_of(plan, picture)))


def _front(base: Base) -> Place:
    """The front, which hangs on its fold: shorter at the right or at the bottom."""
    if FOLDS[base.fold].down:
        return Place(ZERO, ZERO, base.width - base.shorter, base.height)
    return Place(ZERO, ZERO, base.width, base.height - base.shorter)


def _on(carrier: PlacedLayer, layer: CardLayer, kind: str, name: str) -> PlacedLayer:
    below = carrier.place
    width = layer.width or below.width - layer.reveal * 2
    height = layer.height or below.height - layer.reveal * 2
    if min(width, height) <= ZERO:
        # Nothing is left of it between its reveals: a warning says so, and the smallest piece stands for it.
        width, height = max(width, inches("1/16")), max(height, inches("1/16"))
    x = below.x + (below.width - width) / 2 + layer.right
    y = below.y + (below.height - height) / 2 + layer.down
    return PlacedLayer(kind, name, Place(x, y, width, height), layer.stock, layer.foam)


def _foams(layers: Sequence[PlacedLayer], spec: CardSpec) -> Iterator[PlacedLayer]:
    for laid, layer in zip(layers[1:], spec.layers, strict=True):
        place, less = laid.place, layer.foam_less
        # A layer that is hardly larger than that gets glue, and no foam that could be cut.
        if layer.foam and less < min(place.width, place.height):
            yield PlacedLayer(
                "foam",
                laid.name,
                Place(place.x + less / 2, place.y + less / 2, place.width - less, place.height - less),
                "",
                layer.foam,
            )


def _greeting(one: Greeting) -> PlacedLayer:
    name = "Greeting strip" if one.strip else "Greeting"
    return PlacedLayer("greeting", name, Place(one.x, one.y, one.width, one.height), one.stock, one.foam)


def _raised(spec: CardSpec, panel: Place, crop: Place | None, picture: Picture | None) -> Iterator[PlacedLayer]:
    for one in spec.cutouts:
        box = picture.box_of(one.regions) if picture is not None else None
        if box is not None and crop is not None:
            wide = Place(
                box.x - one.margin, box.y - one.margin, box.width + one.margin * 2, box.height + one.margin * 2
            )
            yield PlacedLayer("cut-out", one.name, wide.moved(panel.x - crop.x, panel.y - crop.y), "", one.foam)


def _crop(spec: CardSpec, panel: Place, picture: Picture) -> Place:
    """Where the panel lies on the picture: as it was put, or so that the figure stands in its middle, within the scan
    as far as it goes."""
    whole, (x, y) = picture.whole, (spec.panel.crop_x, spec.panel.crop_y)
    if x is None or y is None:
        middle = picture.middle()
        x = within(middle[0] - panel.width / 2, whole.width - panel.width)
        y = within(middle[1] - panel.height / 2, whole.height - panel.height)
    return Place(x, y, panel.width, panel.height)


def _covered(
    picture: Picture | None, crop: Place | None, panel: Place, greeting: PlacedLayer | None
) -> Iterator[tuple[str, float]]:
    if picture is None or crop is None or greeting is None:
        return
    spot = greeting.place.moved(crop.x - panel.x, crop.y - panel.y)
    shares = picture.shares_in(spot)
    for number in sorted(shares, key=lambda one: -shares[one]):
        yield picture.things[number].name, shares[number]


def _pieces(
    spec: CardSpec, layers: Sequence[PlacedLayer], foams: Sequence[PlacedLayer], inside: PlacedLayer | None
) -> Iterator[CardPart]:
    """What is cut for one card. The picture's own paper is cut from what was stamped, unless it names sheets."""
    width, height = open_size(spec.base)
    base, way = spec.base, FOLDS[spec.base.fold]
    yield CardPart("Base", width, height, base.stock, base.grain_along, scores=base.scores, score_down=way.down)
    pictures = 2 if spec.pull_out else 1
    for laid in layers[1:]:
        size = laid.place
        if laid.kind == "panel":
            trim = spec.panel.trim * 2
            yield CardPart(laid.name, size.width + trim, size.height + trim, laid.stock, "", pictures)
        else:
            yield CardPart(laid.name, size.width, size.height, laid.stock)
    if inside is not None:
        yield CardPart(inside.name, inside.place.width, inside.place.height, inside.stock)
    if spec.greeting is not None and spec.greeting.strip:
        yield CardPart("Greeting strip", spec.greeting.width, spec.greeting.height, spec.greeting.stock)
    for foam in foams:
        yield CardPart(f"Foam under {foam.name.lower()}", foam.place.width, foam.place.height, "foam")
