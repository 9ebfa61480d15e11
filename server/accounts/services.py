"""Signing in and out, opening an account, another password."""

from __future__ import annotations

import logging
import unicodedata

from django.contrib.auth import authenticate, get_user_model, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError as DjangoValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest
from rest_framework.exceptions import ValidationError

from server.accounts import throttle, visits
from server.accounts.models import DemoAccount
from server.accounts.signals import account_opened
from server.files.spare import with_spare
from server.problems import Refused

log = logging.getLogger(__name__)
BACKEND = "django.contrib.auth.backends.ModelBackend"
MIXED = "A name is written in letters of one script, so that none looks like another."
TAKEN = "This name is taken. Choose another."
WRITTEN_TOGETHER = (
    {"LATIN", "CJK", "HIRAGANA", "KATAKANA", "KATAKANA-HIRAGANA"},
    {"LATIN", "CJK", "BOPOMOFO"},
    {"LATIN", "CJK", "HANGUL"},
)
"""Scripts that names may be written in together. [UTS39], from memory."""


def demo() -> DemoAccount | None:
    """The account the demo was made in, None when no demo is loaded."""
    return DemoAccount.objects.filter(user__is_active=True).first()


def sign_in(request: HttpRequest, *, username: str, password: str) -> User:
    """Sign in; after some wrong passwords from the same place each next one waits longer. The demo's own name and
    password open a copy of it, as its button does. A full disk does not keep anybody out."""
    return with_spare(lambda: _sign_in(request, username, password))


def _sign_in(request: HttpRequest, username: str, password: str) -> User:
    name = get_user_model().normalize_username(username)
    throttle.take_guess(request, name)
    user = authenticate(request, username=name, password=password)
    if user is None:
        log.info("Wrong password for %r from %s", name, throttle.address_of(request))
        raise ValidationError({"password": "Name and password do not fit together. Try again."})
    throttle.forget_guesses(request, name)
    log.info("%r signed in from %s", name, throttle.address_of(request))
    if hasattr(user, "demo"):
        return open_demo(request)
    login(request, user)
    return user


def open_demo(request: HttpRequest) -> User:
    """Sign in to a copy of the demo."""
    found = demo()
    if found is None:
        raise Refused("The demo bench is not loaded on this Paleta.", "demo_missing")
    user = visits.enter(request, found)
    login(request, user, backend=BACKEND)
    return user


def sign_out(request: HttpRequest) -> None:
    """Sign out, on a full disk too."""
    with_spare(lambda: logout(request))


def open_account(request: HttpRequest, *, username: str, password: str) -> User:
    """Make an account and sign in to it. The demo's name is the demo's, loaded or not."""
    throttle.require_room(request, throttle.OPENED)
    users = get_user_model()
    name = users.normalize_username(username)
    if mixes_scripts(name):
        raise ValidationError({"username": MIXED})
    if visits.is_the_demos(name) or users.objects.filter(username__iexact=name).exists():
        raise ValidationError({"username": TAKEN})
    _check_password(password, users(username=name), "password")
    try:
        with transaction.atomic():
            user = users.objects.create_user(username=name, password=password)
            account_opened.send(sender=users, user=user)
    except IntegrityError as error:
        raise ValidationError({"username": TAKEN}) from error
    throttle.note(request, throttle.OPENED)
    log.info("Account %r opened from %s", name, throttle.address_of(request))
    login(request, user, backend=BACKEND)
    return user


def mixes_scripts(name: str) -> bool:
    """Whether letters of several scripts stand in a name, as a Cyrillic one in the demo's would, which nobody sees.

    A letter's Unicode name begins with its script; scripts that are written together, as those of Japanese are, count
    as one ([UTS39], "highly restrictive").
    """
    scripts = {unicodedata.name(letter, "").split(" ")[0] for letter in name if letter.isalpha()}
    return len(scripts) > 1 and not any(scripts <= together for together in WRITTEN_TOGETHER)


def change_password(request: HttpRequest, *, actor: User, old: str, new: str) -> None:
    """Another password; this session goes on, all others end."""
    if visits.is_the_demos(actor.get_username()):
        raise Refused("Your copy of the demo has no password. Open an account to keep your work.", "demo_password")
    throttle.take_guess(request, actor.get_username())
    if not actor.check_password(old):
        raise ValidationError({"old": "This is not the password you have now."})
    throttle.forget_guesses(request, actor.get_username())
    _check_password(new, actor, "new")
    actor.set_password(new)
    actor.save(update_fields=["password"])
    update_session_auth_hash(request, actor)
    log.info("Another password for %r from %s", actor.get_username(), throttle.address_of(request))


def _check_password(password: str, user: User, field: str) -> None:
    try:
        validate_password(password, user)
    except DjangoValidationError as error:
        raise ValidationError({field: error.messages}) from error
