"""Cards laid out for pieces: the picture as the core's card knows it, sizes, cuts, looks."""

from __future__ import annotations

import hashlib
import io
import json
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from paleta.card import CardPlan, CutPlan, MakingStep, Picture, Thing, cut_card, lay_out
from paleta.page import card_look
from paleta.recipe import Sheet, sheet_to_plain
from server.derived import disk, pictures
from server.derived.light import FORMS_KEY
from server.derived.maps import Stamping, region_map
from server.derived.memory import memory
from server.pieces.order.presenters import making_after
from server.problems import Refused

LOOK_KEY = "1"
"""To be raised when cards are drawn otherwise."""
QUALITY = 88
UNCOLOURED = 0.2
"""How heavy a region without colours yet looks, 0..1."""


@dataclass(frozen=True, slots=True)
class CardOf:
    """A sheet's card, laid out on its picture."""

    plan: CardPlan
    picture: Picture
    steps: tuple[MakingStep, ...]


def picture_of(stamping: Stamping, sheet: Sheet) -> Picture:
    """Things, what the eye shall rest on, and how dark each region will be."""
    found, settings = region_map(stamping, sheet), sheet.regions.settings
    leads = sheet.regions.thing_leads()
    things: dict[int, list[int]] = {}
    for label in settings:
        things.setdefault(leads[label], []).append(label)
    swatches = sheet.colours.swatches
    darkness = {}
    for label, one in settings.items():
        lights = [swatches[pen].lab[0] for coat in one.coats for pen in coat.pens]
        darkness[label] = 1 - sum(lights) / len(lights) / 100 if lights else UNCOLOURED * (not one.left_as_paper)
    return Picture(
        labels=found.labels,
        px_per_mm=found.px_per_mm,
        things=tuple(
            Thing(
                name=(settings[lead].thing if len(labels) > 1 else "") or settings[lead].name,
                regions=tuple(labels),
                focal=any(settings[label].role == "focal" for label in labels),
                figure=all(settings[label].role != "background" for label in labels),
            )
            for lead, labels in things.items()
        ),
        darkness=darkness,
        seen=_seen(stamping, sheet),
    )


def _seen(stamping: Stamping, sheet: Sheet) -> NDArray[np.uint8]:
    """The picture as planned, small; it is the same however the card is laid out."""
    data = pictures.small_picture(stamping, sheet.with_part("card", spec=None, notes=""), pictures.SHELF_PX)
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))


def card_of(stamping: Stamping, sheet: Sheet) -> CardOf | None:
    """The card of a sheet; None while no base is chosen."""
    spec = sheet.card.spec
    if spec is None:
        return None
    picture = picture_of(stamping, sheet)
    plan = lay_out(spec, picture, sheet.finish.touches, stamped_gsm=sheet.stamp.paper_used.gsm)
    return CardOf(plan, picture, tuple(making_after(sheet)))


def needed(stamping: Stamping, sheet: Sheet) -> CardOf:
    """The card of a sheet.

    Raises
    ------
    Refused
        If no base is chosen yet.
    """
    card = card_of(stamping, sheet)
    if card is None:
        raise Refused("The card has no size yet: choose its base first.", "no_card")
    return card


def cutting_of(card: CardOf, cards: int | None = None) -> CutPlan:
    """How its pieces are cut from the sheets at hand; places and greetings make no new plan."""
    plan = card.plan
    cards = plan.spec.cards if cards is None else cards
    return memory.get(("cutting", plan.pieces, plan.spec.stock, cards), lambda: cut_card(plan, cards))


def coloured(stamping: Stamping, sheet: Sheet) -> Image.Image:
    return Image.open(io.BytesIO(pictures.picture(stamping, sheet, "coloured"))).convert("RGB")


def look_of(stamping: Stamping, sheet: Sheet, width_px: int) -> bytes:
    """JPEG of the finished card."""
    text = json.dumps(sheet_to_plain(sheet), sort_keys=True)
    key = hashlib.sha256(f"{LOOK_KEY} {FORMS_KEY} {stamping} {width_px} {text}".encode()).hexdigest()

    def make() -> bytes:
        card = needed(stamping, sheet)
        small = pictures.small_picture(stamping, sheet, width_px) if width_px <= pictures.SHELF_PX else None
        whole = Image.open(io.BytesIO(small)).convert("RGB") if small else coloured(stamping, sheet)
        return jpeg_of(card_look(card.plan, whole, card.picture, width_px))

    return disk.kept("looks", key, make)


def jpeg_of(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
