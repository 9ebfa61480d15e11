"""Signing in and out, and opening an account."""

from __future__ import annotations

from django.contrib.auth import authenticate, get_user_model, login, logout
from django.contrib.auth.models import AbstractBaseUser
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError as DjangoValidationError
from django.db import transaction
from django.http import HttpRequest
from rest_framework.exceptions import ValidationError

from server.drawers.services import give_starter_drawers
from server.problems import Refused

DEMO_USERNAME = "lantern"


def demo_user() -> AbstractBaseUser | None:
    """The owner of the demo bench, None when no demo is loaded."""
    return get_user_model().objects.filter(username=DEMO_USERNAME, is_active=True).first()


def sign_in(request: HttpRequest, *, username: str, password: str) -> AbstractBaseUser:
    user = authenticate(request, username=username, password=password)
    if user is None:
        raise ValidationError({"password": "Name and password do not fit together. Try again."})
    login(request, user)
    return user


def open_demo(request: HttpRequest) -> AbstractBaseUser:
    user = demo_user()
    if user is None:
        raise Refused("The demo bench is not loaded on this Paleta.", "demo_missing")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return user


def sign_out(request: HttpRequest) -> None:
    logout(request)


@transaction.atomic
def open_account(request: HttpRequest, *, username: str, password: str) -> AbstractBaseUser:
    """Make an account with starter drawers and sign in to it."""
    users = get_user_model().objects
    if users.filter(username__iexact=username).exists():
        raise ValidationError({"username": "This name is taken. Choose another."})
    try:
        validate_password(password)
    except DjangoValidationError as error:
        raise ValidationError({"password": error.messages}) from error
    user = users.create_user(username=username, password=password)
    give_starter_drawers(owner=user)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return user
