"""Backup and restore over the API."""

from __future__ import annotations

from typing import IO, Any

from django.http import StreamingHttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.exceptions import ValidationError
from rest_framework.parsers import BaseParser
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts.authentication import UserRequest
from server.backup import jobs
from server.backup.services import write_backup
from server.backup.storage import storage_of
from server.problems import TooLarge

LARGEST_PART = 9_000_000


class RestoreSerializer(serializers.Serializer):
    """A restore under way."""

    code = serializers.CharField()
    state = serializers.ChoiceField(choices=["receiving", "working", "done", "refused"])
    words = serializers.CharField(help_text="What is being done, or what is wrong.")
    done = serializers.IntegerField()
    total = serializers.IntegerField()
    received_bytes = serializers.IntegerField()
    made = serializers.DictField(child=serializers.IntegerField(), help_text="Brought back, by kind.")
    known = serializers.DictField(child=serializers.IntegerField(), help_text="There already, by kind.")
    left_out = serializers.DictField(
        child=serializers.IntegerField(), help_text="Without their picture in the backup, by kind."
    )


class Bytes(BaseParser):
    """A part of a file, as it is."""

    media_type = "application/octet-stream"

    def parse(self, stream: IO[bytes], media_type: str | None = None, parser_context: Any = None) -> Any:
        data = stream.read(LARGEST_PART + 1)
        if len(data) > LARGEST_PART:
            raise TooLarge("A part of a backup is smaller than that.")
        return data


class BackupView(APIView):
    @extend_schema(operation_id="backup_download", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: UserRequest) -> StreamingHttpResponse:
        """Everything of the account as one file."""
        name = f"paleta-{timezone.now():%Y-%m-%d}.zip"
        headers = {"Content-Disposition": f'attachment; filename="{name}"', "Cache-Control": "no-store"}
        return StreamingHttpResponse(write_backup(request.user), content_type="application/zip", headers=headers)


class TidiedSerializer(serializers.Serializer):
    """What housekeeping did last for all accounts of this Paleta."""

    at = serializers.DateTimeField()
    pictures = serializers.IntegerField(help_text="That nothing referred to any more.")
    restores = serializers.IntegerField(help_text="Files of restores that were broken off.")
    sessions = serializers.IntegerField()
    visits = serializers.IntegerField(help_text="Copies of the demo that nobody used for a day.")
    recounted = serializers.IntegerField(help_text="Pieces whose bytes had been counted wrong.")
    database_bytes = serializers.IntegerField(help_text="By how much the database shrank.")


class StorageSerializer(serializers.Serializer):
    """What of the account lies on disk."""

    pieces = serializers.IntegerField()
    most_pieces = serializers.IntegerField()
    bytes = serializers.IntegerField()
    most_bytes = serializers.IntegerField()
    missing = serializers.ListField(
        child=serializers.CharField(allow_blank=True),
        help_text="Titles of pieces whose pictures are gone; empty for photos of a run whose piece is gone.",
    )
    tidied = TidiedSerializer(allow_null=True)


class StorageView(APIView):
    @extend_schema(operation_id="storage_read", responses=StorageSerializer)
    def get(self, request: UserRequest) -> Response:
        """How much the account keeps, what is missing of it, and when housekeeping was done."""
        return Response(StorageSerializer(storage_of(request.user)).data)


class RestoresView(APIView):
    @extend_schema(operation_id="restore_begin", request=None, responses={201: RestoreSerializer})
    def post(self, request: UserRequest) -> Response:
        return Response(RestoreSerializer(jobs.begin(request.user.pk)).data, status=201)


class RestoreView(APIView):
    @extend_schema(operation_id="restore_read", responses=RestoreSerializer)
    def get(self, request: UserRequest, code: str) -> Response:
        return Response(RestoreSerializer(jobs.named(code, request.user.pk)).data)

    @extend_schema(operation_id="restore_start", request=None, responses=RestoreSerializer)
    def post(self, request: UserRequest, code: str) -> Response:
        """The file is whole: begin."""
        job = jobs.named(code, request.user.pk)
        jobs.start(job)
        return Response(RestoreSerializer(job).data)


class PartView(APIView):
    parser_classes = [Bytes]

    @extend_schema(
        operation_id="restore_part",
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses=RestoreSerializer,
        parameters=[OpenApiParameter("at", int, required=True, description="Where in the file the part begins.")],
    )
    def put(self, request: UserRequest, code: str) -> Response:
        job = jobs.named(code, request.user.pk)
        at = request.query_params.get("at", "")
        if not at.isascii() or not at.isdigit() or len(at) > 15 or not isinstance(request.data, bytes):
            raise ValidationError({"at": "A part says where in the file it begins."})
        jobs.take_part(job, int(at), request.data)
        return Response(RestoreSerializer(job).data)
