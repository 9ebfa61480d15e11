"""Middleware at the door: what is too large or too long is turned away before anything is read or computed."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from server.derived.waiting import waited_for_by
from server.problems import document, plain_response

LONGEST_ADDRESS = 4000


class RequestLimitMiddleware:
    """Refuses long addresses and large bodies by what they say of themselves, and lets heavy work know whether its
    client still waits."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        path = request.path[:200]
        if len(request.get_full_path()) > LONGEST_ADDRESS:
            return plain_response(document("address_too_long", "Address too long", 414, "No address is so long.", path))
        length = request.headers.get("Content-Length") or "0"
        if not (length.isascii() and length.isdigit()) or int(length[:15]) > settings.LARGEST_REQUEST_BYTES:
            most = settings.LARGEST_UPLOAD_BYTES / 1e6
            sentence = f"The file is too large; {most:.0f} MB are the most."
            return plain_response(document("too_large", "Too large", 413, sentence, path))
        # The server tells whether the client has hung up, where it is one that can.
        gone = request.META.get("waitress.client_disconnected", lambda: False)
        with waited_for_by(gone):
            return self.get_response(request)
