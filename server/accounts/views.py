"""The session as a resource: read it, open it, close it."""

from django.contrib.auth.models import User
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts import services, throttle, visits
from server.accounts.authentication import UserRequest
from server.accounts.serializers import NewPasswordSerializer, SessionSerializer, SignInSerializer
from server.strict_json import SmallJSON


def _session(request: Request, user: User | None = None) -> Response:
    who = user if user is not None else request.user
    visit = visits.keep_up(who) if isinstance(who, User) else None
    name = who.get_username() if isinstance(who, User) else None
    told = {
        "username": visits.DEMO_USERNAME if visit else name,
        "demo_available": services.demo() is not None,
        "demo_to_come": (visit.to_come or 0) if visit else 0,
        "demo_ends_at": visits.ends_at(visit) if visit else None,
    }
    response = Response(SessionSerializer(told).data)
    if visit:
        visits.remember(response, visit)
    return response


def _remembered(request: Request, user: User) -> Response:
    response = _session(request, user)
    throttle.remember_device(request._request, response, user.get_username())
    return response


@method_decorator(ensure_csrf_cookie, name="dispatch")
class SessionView(APIView):
    permission_classes = [AllowAny]
    parser_classes = [SmallJSON]

    @extend_schema(operation_id="session_read", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        return _session(request)

    @extend_schema(operation_id="session_sign_in", request=SignInSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        form = SignInSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        return _remembered(request, services.sign_in(request._request, **form.validated_data))

    @extend_schema(operation_id="session_sign_out", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        services.sign_out(request._request)
        return Response(status=204)


class DemoSessionView(APIView):
    permission_classes = [AllowAny]
    parser_classes = [SmallJSON]

    @extend_schema(operation_id="session_open_demo", request=None, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        return _session(request, services.open_demo(request._request))


class AccountView(APIView):
    permission_classes = [AllowAny]
    parser_classes = [SmallJSON]

    @extend_schema(operation_id="account_open", request=SignInSerializer, responses={201: SessionSerializer})
    def post(self, request: Request) -> Response:
        form = SignInSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        response = _remembered(request, services.open_account(request._request, **form.validated_data))
        response.status_code = 201
        return response


class PasswordView(APIView):
    @extend_schema(operation_id="account_change_password", request=NewPasswordSerializer, responses={204: None})
    def put(self, request: UserRequest) -> Response:
        form = NewPasswordSerializer(data=request.data)
        form.is_valid(raise_exception=True)
        services.change_password(request._request, actor=request.user, **form.validated_data)
        return Response(status=204)
