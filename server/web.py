"""Serving the built page, and the headers that keep it to this machine."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

# Nothing from anywhere else. Swatch colours are style attributes, pictures come as blobs.
POLICY = (
    "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)


class SafePages:
    """Middleware: a content security policy on every answer."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response


def page(request: HttpRequest) -> HttpResponse:
    """The one page of the application; its own router reads the address."""
    index = settings.WEB_DIR / "index.html"
    if not index.exists():
        return HttpResponse(
            "The page is not built yet. Run ./run (or `npm run build` in web/).",
            status=503,
            content_type="text/plain; charset=utf-8",
        )
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response
