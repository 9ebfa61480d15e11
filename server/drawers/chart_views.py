"""Views of measuring, mixed into the drawers' own."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import action
from rest_framework.parsers import MultiPartParser
from rest_framework.response import Response

from server.accounts.authentication import UserRequest
from server.drawers import charts, reader, serializers
from server.ownership import require_owner
from server.uploads import uploaded
from server.versions import IF_MATCH

NUMBER = OpenApiParameter("number", int, OpenApiParameter.PATH)
CHARTS = "charts/(?P<number>[0-9]{1,6})"


class ChartActions:
    """What DrawerViewSet can do to measure swatches."""

    @extend_schema(methods=["GET"], responses=serializers.ChartSerializer(many=True))
    @extend_schema(
        methods=["POST"], request=serializers.ChartFormSerializer, responses={201: serializers.ChartSerializer}
    )
    @action(detail=True, methods=["get", "post"], pagination_class=None)
    def charts(self: Any, request: UserRequest, pk: str) -> Response:
        drawer = self.get_object()
        if request.method == "POST":
            form = self._read(serializers.ChartFormSerializer)
            return Response(self._chart(charts.add_chart(actor=request.user, drawer=drawer, **form)), status=201)
        return Response([self._chart(record) for record in drawer.charts.all()])

    @staticmethod
    def _chart(record: Any) -> dict[str, Any]:
        return {"number": record.number, "count": len(record.codes), "paper": record.paper}

    @extend_schema(parameters=[NUMBER], responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=CHARTS + r"\.pdf")
    def chart_pdf(self: Any, request: UserRequest, pk: str, number: str) -> HttpResponse:
        record = charts.chart_named(self.get_object(), int(number))
        return HttpResponse(
            charts.pdf_of(record),
            content_type="application/pdf",
            headers={"Content-Disposition": f'attachment; filename="chart-{number}.pdf"'},
        )

    @extend_schema(parameters=[NUMBER], responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    @action(detail=True, url_path=CHARTS + r"/simulated\.jpg")
    def chart_simulated(self: Any, request: UserRequest, pk: str, number: str) -> HttpResponse:
        """What the simulated camera takes of the filled chart."""
        record = charts.chart_named(self.get_object(), int(number))
        return HttpResponse(charts.simulated_photo(record), content_type="image/jpeg")

    @extend_schema(
        parameters=[NUMBER],
        request={"multipart/form-data": serializers.ChartPhotoSerializer},
        responses=serializers.ChartLineSerializer(many=True),
    )
    @action(
        detail=True,
        methods=["post"],
        url_path=CHARTS + "/read",
        pagination_class=None,
        parser_classes=[MultiPartParser],
    )
    def chart_read(self: Any, request: UserRequest, pk: str, number: str) -> Response:
        """What a photo of the chart says, beside the old values. Nothing is kept."""
        record = charts.chart_named(self.get_object(), int(number))
        form = self._read(serializers.ChartPhotoSerializer)
        lines = charts.read_photo(record, uploaded(form["photo"]))
        return Response([serializers.ChartLineSerializer.of(line) for line in lines])

    @extend_schema(
        request=serializers.MeasuresSerializer, parameters=[IF_MATCH], responses=serializers.DrawerDetailSerializer
    )
    @action(detail=True, methods=["put"])
    def measures(self: Any, request: UserRequest, pk: str) -> Response:
        """Keep confirmed readings."""
        return self._change(charts.store_measures, **self._read(serializers.MeasuresSerializer))

    @extend_schema(request=serializers.ReaderSerializer, responses=serializers.ReaderOutSerializer)
    @action(detail=True, methods=["post"])
    def reader(self: Any, request: UserRequest, pk: str) -> Response:
        """The simulated colour reader: its white tile first, then a swatch."""
        drawer, swatch = self.get_object(), self._read(serializers.ReaderSerializer)["swatch"]
        require_owner(request.user, drawer)
        if swatch is None:
            return Response(reader.hold_on_tile(request.session))
        return Response(reader.hold_on(request.session, *charts.colours_of(drawer, swatch)))
