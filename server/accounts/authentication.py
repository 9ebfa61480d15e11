"""Who sends the request: Django's session, and the token that shows it comes from Paleta's own page."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

SAFE = ("GET", "HEAD", "OPTIONS")


class UserRequest(Request):
    """A request of somebody who is signed in: all views but those of accounts ask for that."""

    user: User


class SignedIn(SessionAuthentication):
    """Session authentication that answers 401, not 403, to visitors, and wants the token of visitors too: signing in,
    opening an account or the demo must not be done by a page from elsewhere either."""

    def authenticate(self, request: Request) -> tuple[Any, None] | None:
        found = super().authenticate(request)
        if found is None and request.method not in SAFE:
            self.enforce_csrf(request)
        return found

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SignedInScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    target_class = "server.accounts.authentication.SignedIn"
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
