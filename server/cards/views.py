"""Cards and the one page over the API: of the sheet in work, or of a kept version."""

from __future__ import annotations

import re
from dataclasses import dataclass

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.card import MOST_CARDS, CutPlan
from paleta.errors import CardError
from paleta.order import Plan
from paleta.page import (
    RecipePage,
    card_pdf,
    cropped,
    front,
    lines_to_cut,
    mask_to_cut,
    recipe_page,
    recipe_pdf,
    recipe_text,
    to_svg,
)
from paleta.recipe import Sheet
from server.cards import layouts, presenters, services
from server.cards.serializers import (
    PAPERS,
    UNITS,
    CardLikeSerializer,
    CardPlanSerializer,
    CutPlanSerializer,
    OnePageSerializer,
)
from server.derived import pictures
from server.derived.maps import region_map
from server.pieces.models import Piece
from server.pieces.order.presenters import touches_after
from server.pieces.shelf.views import LARGEST_PX, SMALLEST_PX, jpeg
from server.pieces.views import PieceActions, changes, number_in
from server.recipes.order import plan_of
from server.recipes.services import recipe_named, recipe_of

RECIPE = OpenApiParameter("recipe", int, description="A kept version; else the sheet in work.")
UNIT = OpenApiParameter("unit", str, enum=[code for code, _ in UNITS], default="in")
PAPER = OpenApiParameter("paper", str, enum=[code for code, _ in PAPERS], default="letter")
SMALL_PX = 460
FIGURE = "Figure"


def chosen(request: Request, name: str, choices: list[tuple[str, str]]) -> str:
    value = request.query_params.get(name, choices[0][0])
    if value not in dict(choices):
        raise ValidationError({name: f"One of {', '.join(code for code, _ in choices)} is needed here."})
    return value


@dataclass(frozen=True, slots=True)
class Asked:
    """The piece asked about, with the sheet in work or that of a kept version."""

    piece: Piece
    sheet: Sheet
    version: int | None
    kept_plan: Plan | None

    @property
    def plan(self) -> Plan:
        if self.kept_plan is not None:
            return self.kept_plan
        return plan_of(self.piece, self.sheet)


class OfSheets(PieceActions):
    """Views that answer for the sheet in work or, with ?recipe=, for a version."""

    def asked(self, request: Request) -> Asked:
        piece = self.get_object()
        if "recipe" in request.query_params:
            number = number_in(request, "recipe", int)
            kept = recipe_of(recipe_named(piece, str(max(number, 0))))
            return Asked(piece, kept.sheet, kept.version, kept.plan)
        return Asked(piece, piece.sheet(), None, None)

    @staticmethod
    def file(asked: Asked, data: bytes | str, kind: str, ending: str) -> HttpResponse:
        name = re.sub(r"[^a-z0-9]+", "-", asked.sheet.stamp.title.lower()).strip("-") or "card"
        headers = {"Content-Disposition": f'attachment; filename="{name}{ending}"', "Cache-Control": "no-store"}
        return HttpResponse(data, content_type=kind, headers=headers)


class CardViews(OfSheets):
    @extend_schema(parameters=[RECIPE], responses=CardPlanSerializer)
    @action(detail=True, url_path="card-plan")
    def card_plan(self, request: Request, pk: str) -> Response:
        """Every size and place on the card, what speaks against it, and the order it is made in."""
        asked = self.asked(request)
        card = layouts.card_of(asked.piece.stamping, asked.sheet)
        return Response({"laid": presenters.card_readout(card) if card else None})

    @extend_schema(parameters=[RECIPE, OpenApiParameter("cards", int)], responses=CutPlanSerializer)
    @action(detail=True)
    def cutting(self, request: Request, pk: str) -> Response:
        """How the pieces of so many cards are cut from the sheets at hand."""
        asked = self.asked(request)
        card = layouts.needed(asked.piece.stamping, asked.sheet)
        cards = card.plan.spec.cards
        if "cards" in request.query_params:
            cards = number_in(request, "cards", int)
            if not 1 <= cards <= MOST_CARDS:
                raise ValidationError({"cards": f"A cutting plan is for 1 to {MOST_CARDS:,} cards."})
        return Response(presenters.cutting_readout(layouts.cutting_of(card, cards), cards))

    @changes(CardLikeSerializer)
    @action(detail=True, methods=["put"], url_path="card-like")
    def card_like(self, request: Request, pk: str) -> Response:
        form = self.read_form(CardLikeSerializer)
        other = get_object_or_404(Piece.objects.owned_by(request.user), pk=form["piece"])
        return self.change(services.match_card, other=other)

    @extend_schema(
        parameters=[RECIPE, OpenApiParameter("width_px", int), OpenApiParameter("version", int)],
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
    )
    @action(detail=True, url_path="card-look")
    def card_look(self, request: Request, pk: str) -> HttpResponse:
        """What the finished card will look like."""
        asked = self.asked(request)
        width_px = number_in(request, "width_px", int) if "width_px" in request.query_params else LARGEST_PX
        data = layouts.look_of(asked.piece.stamping, asked.sheet, min(max(width_px, SMALLEST_PX), LARGEST_PX))
        lasting = asked.version is not None or request.query_params.get("version") == str(asked.piece.version)
        return jpeg(data, lasting=lasting)

    @extend_schema(parameters=[RECIPE, UNIT, PAPER], responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=r"card\.pdf")
    def card_pdf(self, request: Request, pk: str) -> HttpResponse:
        """Drawings with measures, order of making, cutting plan, and the lines to cut at full size."""
        asked = self.asked(request)
        card = layouts.needed(asked.piece.stamping, asked.sheet)
        try:
            cutting: CutPlan | str = layouts.cutting_of(card)
        except CardError as fault:
            # A piece that goes on no sheet is said in its place; all else is drawn.
            cutting = str(fault)
        data = card_pdf(
            card.plan,
            cutting,
            card.steps,
            lines_to_cut(card.plan, card.picture, self._masks(asked.sheet)),
            title=asked.sheet.stamp.title,
            unit=chosen(request, "unit", UNITS),
            paper=chosen(request, "paper", PAPERS),
            photo=self._panel_photo(asked, card),
        )
        return self.file(asked, data, "application/pdf", "-card.pdf")

    @extend_schema(parameters=[RECIPE, UNIT], responses={(200, "image/svg+xml"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=r"card\.svg")
    def card_svg(self, request: Request, pk: str) -> HttpResponse:
        """The front at full size with its measures."""
        asked = self.asked(request)
        card = layouts.needed(asked.piece.stamping, asked.sheet)
        return self.file(asked, to_svg(front(card.plan, chosen(request, "unit", UNITS))), "image/svg+xml", "-card.svg")

    @extend_schema(parameters=[RECIPE], responses={(200, "image/svg+xml"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=r"cut-lines\.svg")
    def cut_lines(self, request: Request, pk: str) -> HttpResponse:
        """Panel, cut-outs and mask as closed paths in mm, one colour a depth."""
        asked = self.asked(request)
        card = layouts.needed(asked.piece.stamping, asked.sheet)
        drawing = lines_to_cut(card.plan, card.picture, self._masks(asked.sheet))
        return self.file(asked, to_svg(drawing), "image/svg+xml", "-cut-lines.svg")

    @extend_schema(parameters=[RECIPE], responses={(200, "image/svg+xml"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=r"mask\.svg")
    def mask(self, request: Request, pk: str) -> HttpResponse:
        """The figure's mask as closed paths in mm, whether the card has its sizes or not."""
        asked = self.asked(request)
        picture = layouts.picture_of(asked.piece.stamping, asked.sheet)
        return self.file(asked, to_svg(mask_to_cut(picture, self._figure(asked.sheet))), "image/svg+xml", "-mask.svg")

    @staticmethod
    def _figure(sheet: Sheet) -> list[int]:
        """All that is no background."""
        return [label for label, one in sheet.regions.settings.items() if one.role != "background"]

    @staticmethod
    def _masks(sheet: Sheet) -> dict[str, list[int]]:
        """The figure, where it is masked for its background."""
        figure = CardViews._figure(sheet)
        return {FIGURE: figure} if sheet.order.masked and figure else {}

    @staticmethod
    def _panel_photo(asked: Asked, card: layouts.CardOf) -> bytes:
        """The panel as it will look, alone."""
        whole, crop = layouts.coloured(asked.piece.stamping, asked.sheet), card.plan.crop
        assert crop is not None
        return layouts.jpeg_of(cropped(whole, crop, card.picture))


class PageViews(OfSheets):
    def _page(self, request: Request) -> tuple[Asked, RecipePage]:
        asked = self.asked(request)
        card = layouts.card_of(asked.piece.stamping, asked.sheet)
        page = recipe_page(
            asked.sheet,
            asked.plan,
            region_map(asked.piece.stamping, asked.sheet),
            version=asked.version,
            card=card.plan if card else None,
            unit=chosen(request, "unit", UNITS),
            touches=touches_after(asked.sheet),
        )
        return asked, page

    @extend_schema(parameters=[RECIPE, UNIT], responses=OnePageSerializer)
    @action(detail=True, url_path="one-page")
    def one_page(self, request: Request, pk: str) -> Response:
        """The recipe as it stands on one page."""
        asked, page = self._page(request)
        has_card = asked.sheet.card.spec is not None
        return Response(presenters.page_readout(page, asked.piece, asked.sheet.light.lamp.clock, has_card=has_card))

    @extend_schema(parameters=[RECIPE, UNIT, PAPER], responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=r"one-page\.pdf")
    def one_page_pdf(self, request: Request, pk: str) -> HttpResponse:
        asked, page = self._page(request)
        line = pictures.picture(asked.piece.stamping, asked.sheet, "line")
        has_card = asked.sheet.card.spec is not None
        look = layouts.look_of if has_card else pictures.small_picture
        small = look(asked.piece.stamping, asked.sheet, SMALL_PX)
        data = recipe_pdf(page, line, small, paper=chosen(request, "paper", PAPERS))
        return self.file(asked, data, "application/pdf", f"-v{asked.version}.pdf" if asked.version else ".pdf")

    @extend_schema(parameters=[RECIPE, UNIT], responses={(200, "text/plain"): OpenApiTypes.STR})
    @action(detail=True, url_path=r"one-page\.txt")
    def one_page_txt(self, request: Request, pk: str) -> HttpResponse:
        """The list of pens per part that others ask for, and the order, as plain text."""
        asked, page = self._page(request)
        return self.file(asked, recipe_text(page), "text/plain; charset=utf-8", ".txt")
