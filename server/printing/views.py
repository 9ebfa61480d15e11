"""The recipe on one page over the API: of the sheet in work, or of a kept version."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from paleta.page import RecipePage, recipe_page, recipe_pdf, recipe_text
from server.cards import layouts
from server.cards.serializers import PAPERS, UNITS
from server.cards.sheet_views import PAPER, RECIPE, UNIT, Asked, OfSheets, chosen
from server.derived import pictures
from server.derived.maps import region_map
from server.pieces.order.presenters import touches_after
from server.printing import presenters
from server.printing.serializers import OnePageSerializer

SMALL_PX = 460


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
        return Response(presenters.present_page(page, asked.piece, asked.sheet.light.lamp.clock, has_card=has_card))

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
