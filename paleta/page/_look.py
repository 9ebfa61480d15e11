"""What the finished card will look like: the coloured picture cropped, on its mats in their colours, its greeting."""

from __future__ import annotations

import io
from importlib.resources import files

from PIL import Image, ImageDraw, ImageFilter, ImageFont

from paleta.card import CardPlan, CutOut, Length, Picture, Place, PlacedLayer, cut_lines, on_picture

WHITE = "#fbfbf9"
SURROUND = "#a3a3a3"
EDGE_SHARE = 0.04
"""Neutral surround around the card, as a share of its width."""
SHADE = (0, 0, 0, 96)
TALLEST = 3
"""A picture of a card is at most so many times as tall as it was asked to be wide."""


def card_look(plan: CardPlan, coloured: Image.Image, picture: Picture, width_px: int) -> Image.Image:
    """The card from the front, lamp at the top left, `width_px` wide or, if that made it too tall, narrower.

    Parameters
    ----------
    plan
        the card
    coloured
        the whole picture as planned, in RGB
    picture
        what it is made for, with its crop
    width_px
        of the result; less where it would come out too tall

    Returns
    -------
    The card from the front, lamp at the top left.
    """
    edge = round(width_px * EDGE_SHARE)
    width, height = (float(side.mm) for side in (plan.front.width, plan.front.height))
    scale = min((width_px - 2 * edge) / width, TALLEST * width_px / height)
    size = (max(1, round(width * scale)) + 2 * edge, max(1, round(height * scale)) + 2 * edge)
    image = Image.new("RGB", size, SURROUND)
    draw = _Sheet(image, scale, edge)
    for laid in plan.layers:
        draw.shadow(laid.place, laid.foam)
        if laid.kind == "panel" and plan.crop is not None:
            draw.paste(cropped(coloured, plan.crop, picture), laid.place)
        else:
            draw.fill(laid.place, _paper_of(plan, laid))
    for one in plan.spec.cutouts:
        draw.cut_out(plan, picture, coloured, one)
    greeting = plan.spec.greeting
    if greeting is not None and plan.greeting is not None:
        if greeting.strip:
            draw.shadow(plan.greeting.place, greeting.foam)
            draw.fill(plan.greeting.place, _paper_of(plan, plan.greeting))
        draw.words(greeting.text, plan.greeting.place, greeting.colour)
    return image


def _paper_of(plan: CardPlan, laid: PlacedLayer) -> str:
    stock = plan.spec.stock_named(laid.stock)
    return stock.colour if stock is not None else WHITE


def cropped(coloured: Image.Image, crop: Place, picture: Picture) -> Image.Image:
    """The part of the picture the panel lies on; bare paper where it reaches beyond.

    Parameters
    ----------
    coloured
        The whole picture, RGB.
    crop
        Its part, lengths on the picture.
    picture
        With the picture's own size.
    """
    per_mm = coloured.width / float(picture.whole.width.mm)
    left, top, right, bottom = (round(float(edge.mm) * per_mm) for edge in (crop.x, crop.y, crop.right, crop.bottom))
    part = Image.new("RGB", (max(1, right - left), max(1, bottom - top)), coloured.getpixel((0, 0)))
    part.paste(coloured, (-left, -top))
    return part


class _Sheet:
    """Lays pieces on an image, `edge` pixels in from its corner."""

    def __init__(self, image: Image.Image, scale: float, edge: int) -> None:
        self.image = image
        self.scale = scale
        self.edge = edge

    def _box(self, place: Place) -> tuple[int, int, int, int]:
        left, top, right, bottom = (
            self.edge + round(float(one.mm) * self.scale) for one in (place.x, place.y, place.right, place.bottom)
        )
        return left, top, right, bottom

    def fill(self, place: Place, colour: str) -> None:
        ImageDraw.Draw(self.image).rectangle(self._box(place), fill=colour)

    def paste(self, part: Image.Image, place: Place) -> None:
        left, top, right, bottom = self._box(place)
        size = (max(1, right - left + 1), max(1, bottom - top + 1))
        self.image.paste(part.resize(size, Image.Resampling.LANCZOS), (left, top))

    def shadow(self, place: Place, foam: Length) -> None:
        """The farther something stands up, the farther and softer its shadow."""
        mask = Image.new("L", self.image.size, 0)
        ImageDraw.Draw(mask).rectangle(self._box(place), fill=255)
        self._cast(mask, foam)

    def _cast(self, mask: Image.Image, foam: Length) -> None:
        away = (0.35 + 0.5 * float(foam.mm)) * self.scale
        soft = mask.filter(ImageFilter.GaussianBlur(max(0.8, 0.7 * away)))
        moved = Image.new("L", mask.size, 0)
        moved.paste(soft, (round(away), round(away)))
        dark = Image.new("RGB", mask.size, SHADE[:3])
        self.image.paste(dark, (0, 0), moved.point([round(level * SHADE[3] / 255) for level in range(256)]))

    def words(self, text: str, place: Place, colour: str) -> None:
        left, top, right, bottom = self._box(place)
        face = io.BytesIO((files("paleta.page") / "fonts" / "bold.ttf").read_bytes())
        size = max(6, round(0.62 * (bottom - top)))
        font = ImageFont.truetype(face, size)
        wide = font.getlength(text)
        if wide > 0.92 * (right - left):
            font = font.font_variant(size=max(6, int(size * 0.92 * (right - left) / wide)))
        middle = ((left + right) / 2, (top + bottom) / 2)
        ImageDraw.Draw(self.image).text(middle, text, fill=colour, font=font, anchor="mm")

    def cut_out(self, plan: CardPlan, picture: Picture, coloured: Image.Image, one: CutOut) -> None:
        """What stands up once more, in its place above the panel."""
        front = on_picture(plan, plan.front)
        if front is None:
            return
        left, top = float(front.x.mm), float(front.y.mm)
        mask = Image.new("L", self.image.size, 0)
        for path in cut_lines(picture.labels, one.regions, float(one.margin.mm), picture.px_per_mm):
            corners = [((x - left) * self.scale + self.edge, (y - top) * self.scale + self.edge) for x, y in path]
            ImageDraw.Draw(mask).polygon(corners, fill=255)
        self._cast(mask, one.foam)
        width, height = (round(float(side.mm) * self.scale) for side in (picture.whole.width, picture.whole.height))
        corner = round(self.edge - left * self.scale), round(self.edge - top * self.scale)
        whole = Image.new("RGB", self.image.size, WHITE)
        whole.paste(coloured.resize((width, height), Image.Resampling.LANCZOS), corner)
        self.image.paste(whole, (0, 0), mask)
