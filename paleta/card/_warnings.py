"""What speaks against a card, with what would mend it (docs/trade-notes.md, Cards)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from paleta.card._legible import flat, legibility
from paleta.card._length import ZERO, inches, millimetres, show
from paleta.card._picture import Picture, Place
from paleta.card._plan import CardPlan, CardWarning, PlacedLayer, on_picture, within
from paleta.card._sizes import ENVELOPES
from paleta.card._spec import FOAM_LESS, REVEAL, Greeting

FLAT_MOST = millimetres(3)
"""What lies flat in an envelope. From memory, common practice."""
ENVELOPE_ROOM = inches("1/8")
"""How much smaller overall than its envelope a card is (common practice)."""
COVERED_MUCH = 0.25
WHITE, BLACK = "#ffffff", "#1d1d1d"
HIDDEN = 0.95


def warnings_of(plan: CardPlan, picture: Picture | None) -> Iterator[CardWarning]:
    """What is to be said about a laid-out card, with remedies.

    Parameters
    ----------
    plan
        the card
    picture
        what it is made for; None: nothing is said about crop and cover
    """
    yield from _nothing_left(plan)
    yield from _hanging_over(plan)
    yield from _showing_foam(plan, picture)
    yield from _about_greeting(plan, picture)
    yield from _about_post(plan)
    yield from _about_picture(plan, picture)
    stock = plan.spec.stock_named(plan.spec.base.stock)
    if plan.spec.base.grain_along and stock is not None and not stock.grain:
        yield CardWarning(
            "grain", "Base", f"It is not said which way the grain of {stock.name} runs; a fold against it cracks."
        )


def _nothing_left(plan: CardPlan) -> Iterator[CardWarning]:
    """Layers, and the panel inside, whose reveals take all that carries them."""
    spec = plan.spec
    for number, (below, laid) in enumerate(zip(plan.layers, plan.layers[1:], strict=False)):
        layer, room = spec.layers[number], below.place
        sides = [free for own, free in ((layer.width, room.width), (layer.height, room.height)) if own is None]
        if any(layer.reveal * 2 >= free for free in sides):
            reveal = min(REVEAL, min(room.width, room.height) / 4)
            yield CardWarning(
                "nothing left", laid.name,
                f"With {show(layer.reveal)} free at each side nothing is left of {laid.name.lower()}.",
                f"Let {show(reveal)} of {below.name.lower()} show all round", spec.with_layer(number, reveal=reveal),
            )  # fmt: skip
    base, inside = spec.base, spec.inside
    if inside is not None and inside.panel and inside.reveal * 2 >= min(base.width, base.height):
        yield CardWarning(
            "nothing left", "Panel inside",
            f"With {show(inside.reveal)} free at each side nothing is left of the panel inside.",
            f"Let {show(REVEAL)} of the base show all round", spec.changed("inside", reveal=REVEAL),
        )  # fmt: skip


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
        if picture.box_of(one.regions) is None:
            yield CardWarning(
                "gone", one.name, f"{one.name} is no longer in the picture: its regions were joined or erased.",
                "Leave it out", replace(spec, cutouts=tuple(it for it in spec.cutouts if it != one)),
            )  # fmt: skip
            continue
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
        x = within(laid.place.x, plan.front.width - laid.place.width)
        y = within(laid.place.y, plan.front.height - laid.place.height)
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
    yield from _about_reading(plan, laid, spec.greeting, picture, spot)
    if spec.greeting.embossed:
        yield CardWarning(
            "press", laid.name, "What is embossed with heat must not go through a roller press: its shine goes. "
            "Emboss before anything is layered, away from wet alcohol ink.",
        )  # fmt: skip


def _about_reading(
    plan: CardPlan, laid: PlacedLayer, one: Greeting, picture: Picture | None, spot: Place | None
) -> Iterator[CardWarning]:
    """A greeting that is lost in what lies under it, with the ways out."""
    spec, height_mm = plan.spec, float(laid.place.height.mm)
    if one.strip:
        stock = spec.stock_named(one.stock)
        ground = None if stock is None else flat(stock.colour)
    else:
        ground = picture.seen_in(spot) if picture is not None and spot is not None else None
    if ground is None:
        return
    now = legibility(one.colour, ground, height_mm)
    if now.fine:
        return
    under = "its strip" if one.strip else "what lies under it"
    if now.contrast < now.least:
        sentence = (
            f"Its ink hardly stands out from {under}: a contrast of {now.contrast:.1f}, where letters of this size "
            f"need {now.least:g}."
        )
    else:
        sentence = "What lies under it goes from light to dark: the letters are lost in it."
    inks = {WHITE: "Emboss it in white", BLACK: "Stamp it in black"}
    tried = {ink: legibility(ink, ground, height_mm) for ink in inks}
    ink = max(tried, key=lambda code: tried[code].contrast)
    better = tried[ink].contrast > max(now.contrast, now.least)
    yield CardWarning(
        "hard to read", laid.name, sentence, inks[ink] if better else "",
        spec.changed("greeting", colour=ink, embossed=ink == WHITE) if better else None,
    )  # fmt: skip
    if one.strip:
        return
    yield CardWarning(
        "or on a strip", laid.name, "Or set it on a strip of its own, where nothing lies under it.",
        "Set it on a strip", spec.changed("greeting", strip=True),
    )  # fmt: skip
    assert picture is not None
    if spot is None or plan.crop is None:
        return
    calm = picture.calmest(one.colour, now.least, spot, plan.crop)
    there = picture.seen_in(calm)
    if there is not None and legibility(one.colour, there, height_mm).fine:
        on_front = calm.moved(plan.panel.place.x - plan.crop.x, plan.panel.place.y - plan.crop.y)
        yield CardWarning(
            "or elsewhere", laid.name, "Or stamp it where the picture is calm.",
            "Move it there", spec.changed("greeting", x=on_front.x, y=on_front.y),
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
        x = within(plan.crop.x, picture.whole.width - plan.crop.width)
        y = within(plan.crop.y, picture.whole.height - plan.crop.height)
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
