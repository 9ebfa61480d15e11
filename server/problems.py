"""Every error as a problem document ([RFC9457]), made in this one place."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import (
    DisallowedHost,
    PermissionDenied,
    RequestDataTooBig,
    SuspiciousOperation,
)
from django.db import IntegrityError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from rest_framework import exceptions, status
from rest_framework.response import Response

from paleta.errors import ImageTooLarge, PaletaError
from server.derived.waiting import NobodyWaits
from server.files.spare import is_full
from server.files.store import FileMissing

MEDIA_TYPE = "application/problem+json"
CLIENT_LEFT = 499
"""No status of a standard, since nobody reads it; servers log it under this number."""
CLIENT_LEFT_REASON = "Client Closed Request"
log = logging.getLogger(__name__)


class ChangedElsewhere(exceptions.APIException):
    status_code = status.HTTP_412_PRECONDITION_FAILED
    default_code = "changed_elsewhere"
    default_detail = (
        "This was changed in another tab or on another device. It is shown as it is now; do your last step again."
    )


class VersionMissing(exceptions.APIException):
    status_code = status.HTTP_428_PRECONDITION_REQUIRED
    default_code = "version_missing"
    default_detail = "A change must say which version it was made on (If-Match)."


class Refused(exceptions.APIException):
    """Something that is not done, with its sentence, its code and the status of the answer."""

    def __init__(self, detail: str, code: str, http_status: int = status.HTTP_409_CONFLICT) -> None:
        super().__init__(detail, code)
        self.status_code = http_status


class TooLarge(exceptions.APIException):
    status_code = status.HTTP_413_REQUEST_ENTITY_TOO_LARGE
    default_code = "too_large"
    default_detail = "That is more than Paleta takes at once."


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
        number = 413 if isinstance(error, ImageTooLarge) else 422
        return _response(document(error.code, _title(error.code), number, str(error), path))
    if isinstance(error, exceptions.ValidationError):
        errors = list(_fields(error.get_full_details(), "#"))
        detail = errors[0]["detail"] if len(errors) == 1 else "Some fields need another look."
        return _response(document("invalid_fields", "Invalid fields", 422, detail, path, errors=errors))
    known = error if isinstance(error, exceptions.APIException) else _foreseen(error)
    if known is not None:
        code = str(known.get_codes()) if not isinstance(known.get_codes(), dict | list) else "refused"
        response = _response(document(code, _title(code), known.status_code, str(known.detail), path))
        if scheme := getattr(known, "auth_header", None):
            response["WWW-Authenticate"] = scheme
        if wait_s := getattr(known, "wait", None):
            response["Retry-After"] = str(int(wait_s) + 1)
        return response
    log.exception("Unforeseen error at %s", path, exc_info=error)
    return _response(_unforeseen(path))


def _foreseen(error: Exception) -> exceptions.APIException | None:
    """What Django, the database or the disk say, as a problem with a sentence."""
    if isinstance(error, Http404):
        return exceptions.NotFound("There is nothing here, or it is not yours.")
    if isinstance(error, PermissionDenied):
        return exceptions.PermissionDenied()
    if isinstance(error, RequestDataTooBig):
        return TooLarge()
    if isinstance(error, SuspiciousOperation):
        return exceptions.ParseError("The request cannot be read as it is.")
    if isinstance(error, FileMissing):
        gone = "A picture of this piece is no longer in the media folder. Bring it back from a backup."
        return Refused(gone, "file_missing", status.HTTP_410_GONE)
    if isinstance(error, IntegrityError):
        twice = "The same was done twice at the same moment. Look what is there now, and try again."
        return Refused(twice, "same_moment")
    if isinstance(error, NobodyWaits):
        stopped = "The work was stopped, since nobody waited for it any more."
        return Refused(stopped, "nobody_waits", CLIENT_LEFT)
    if is_full(error):
        sentence = "The disk is full, so nothing was stored. Make room and try again."
        return Refused(sentence, "no_room", status.HTTP_507_INSUFFICIENT_STORAGE)
    return None


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
    response = Response(body, status=body["status"], content_type=MEDIA_TYPE)
    if body["status"] == CLIENT_LEFT:
        response.reason_phrase = CLIENT_LEFT_REASON
    return response


class WorthLogging(logging.Filter):
    """Leaves out requests that their client gave up: they are no trouble of the server's."""

    def filter(self, record: logging.LogRecord) -> bool:
        return getattr(record, "status_code", None) != CLIENT_LEFT


def _unforeseen(path: str) -> dict[str, Any]:
    sentence = "Something went wrong on our side. Nothing was stored; please try again."
    return document("unforeseen", "Something broke", 500, sentence, path)


def plain_response(body: dict[str, Any]) -> HttpResponse:
    """The same outside of any view."""
    return JsonResponse(body, status=body["status"], content_type=MEDIA_TYPE)


def no_such_address(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    return plain_response(document("not_found", "Not found", 404, "There is nothing at this address.", request.path))


def unreadable(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    sentence = "The request cannot be read as it is."
    if isinstance(exception, DisallowedHost):
        sentence = "Paleta is not served under this name. PALETA_HOSTS lists the names it answers to."
    return plain_response(document("bad_request", "Bad request", 400, sentence, request.path))


def forbidden(request: HttpRequest, reason: str = "", exception: Exception | None = None) -> HttpResponse:
    """Django's own words for a missing token come here too."""
    sentence = "This request did not come from Paleta's own page. Reload the page and try again."
    return plain_response(document("permission_denied", "Permission denied", 403, sentence, request.path))


def broken(request: HttpRequest) -> HttpResponse:
    return plain_response(_unforeseen(request.path))
