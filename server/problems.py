"""Every error as a problem document (RFC 9457), made in this one place."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from rest_framework import exceptions, status
from rest_framework.response import Response

from paleta.errors import ImageTooLarge, PaletaError

MEDIA_TYPE = "application/problem+json"
log = logging.getLogger(__name__)


class ChangedElsewhere(exceptions.APIException):
    status_code = status.HTTP_412_PRECONDITION_FAILED
    default_code = "changed_elsewhere"
    default_detail = (
        "This piece was changed in another tab or on another device. It is shown as it is now; do your last step again."
    )


class VersionMissing(exceptions.APIException):
    status_code = status.HTTP_428_PRECONDITION_REQUIRED
    default_code = "version_missing"
    default_detail = "A change must say which version of the piece it was made on (If-Match)."


class Refused(exceptions.APIException):
    """Something a service does not do, with its sentence and code."""

    status_code = status.HTTP_409_CONFLICT

    def __init__(self, detail: str, code: str) -> None:
        super().__init__(detail, code)


def document(code: str, title: str, http_status: int, detail: str, path: str, **more: Any) -> dict[str, Any]:
    return {
        "type": f"/problems/{code}",
        "title": title,
        "status": http_status,
        "detail": detail,
        "instance": path,
        **more,
    }


def handle(error: Exception, context: dict[str, Any]) -> Response | None:
    """DRF's exception handler."""
    path = context["request"].path
    if isinstance(error, PaletaError):
        code = (
            status.HTTP_413_REQUEST_ENTITY_TOO_LARGE
            if isinstance(error, ImageTooLarge)
            else status.HTTP_422_UNPROCESSABLE_ENTITY
        )
        return _response(document(error.code, _title(error.code), code, str(error), path))
    if isinstance(error, exceptions.ValidationError):
        errors = list(_fields(error.get_full_details(), "#"))
        detail = errors[0]["detail"] if len(errors) == 1 else "Some fields need another look."
        return _response(document("invalid_fields", "Invalid fields", 422, detail, path, errors=errors))
    if isinstance(error, Http404):
        error = exceptions.NotFound("There is nothing here, or it is not yours.")
    if isinstance(error, PermissionDenied):
        error = exceptions.PermissionDenied()
    if isinstance(error, exceptions.APIException):
        code = str(error.get_codes()) if not isinstance(error.get_codes(), dict | list) else "refused"
        response = _response(document(code, _title(code), error.status_code, str(error.detail), path))
        if getattr(error, "auth_header", None):
            response["WWW-Authenticate"] = error.auth_header
        return response
    log.exception("Unforeseen error at %s", path, exc_info=error)
    return _response(
        document(
            "unforeseen",
            "Something broke",
            500,
            "Something went wrong on our side. Nothing was stored; please try again.",
            path,
        )
    )


def _fields(details: Any, pointer: str) -> Any:
    if isinstance(details, dict) and {"message", "code"} <= details.keys():
        yield {"pointer": pointer, "code": details["code"], "detail": str(details["message"])}
    elif isinstance(details, dict):
        for name, value in details.items():
            yield from _fields(value, pointer if name == "non_field_errors" else f"{pointer}/{name}")
    else:
        for value in details:
            yield from _fields(value, pointer)


def _title(code: str) -> str:
    return code.replace("_", " ").capitalize()


def _response(body: dict[str, Any]) -> Response:
    return Response(body, status=body["status"], content_type=MEDIA_TYPE)


def no_such_address(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    return JsonResponse(
        document("not_found", "Not found", 404, "There is nothing at this address.", request.path),
        status=404,
        content_type=MEDIA_TYPE,
    )


def broken(request: HttpRequest) -> HttpResponse:
    return JsonResponse(
        document("unforeseen", "Something broke", 500, "Something went wrong on our side.", request.path),
        status=500,
        content_type=MEDIA_TYPE,
    )
