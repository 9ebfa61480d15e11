"""Cards over the API: of the sheet in work, or of a kept version."""

from __future__ import annotations

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
from paleta.page import (
    card_pdf,
    cropped,
    front,
    lines_to_cut,
    mask_to_cut,
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
)
from server.cards.sheet_views import PAPER, RECIPE, UNIT, Asked, OfSheets, chosen
from server.pieces.models import Piece
from server.pieces.shelf.views import LARGEST_PX, SMALLEST_PX, jpeg
from server.pieces.views import changes, number_in

FIGURE = "Figure"


class CardViews(OfSheets):
    @extend_schema(parameters=[RECIPE], responses=CardPlanSerializer)
    @action(detail=True, url_path="card-plan")
    def card_plan(self, request: Request, pk: str) -> Response:
        """Every size and place on the card, what speaks against it, and the order it is made in."""
        asked = self.asked(request)
        card = layouts.card_of(asked.piece.stamping, asked.sheet)
        return Response({"laid": presenters.present_card(card) if card else None})

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
        return Response(presenters.present_cutting(layouts.cutting_of(card, cards), cards))

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
