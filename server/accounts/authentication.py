"""Who sends the request: Django's session, checked against forged requests."""

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class SignedIn(SessionAuthentication):
    """Session authentication that answers 401, not 403, to visitors."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SignedInScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    target_class = "server.accounts.authentication.SignedIn"
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
