"""Whoever opens the demo gets a copy of it, so that nobody finds what somebody else left behind, or took away.

A copy is an account without a password. The device that opened it comes back to it, and it goes a day after its last
use.
"""

from __future__ import annotations

import secrets
from contextlib import suppress
from datetime import datetime, timedelta

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.core import signing
from django.db import OperationalError, transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from server.accounts import throttle
from server.accounts.models import DemoAccount, DemoVisit
from server.accounts.signals import demo_visited

DEMO_USERNAME = "lantern"
KEPT = timedelta(days=1)
NOTED_AGAIN = timedelta(minutes=30)
"""A use is written down only so often."""
COOKIE, SALT = "paleta-demo", "a visitor's copy of the demo"


def is_the_demos(name: str) -> bool:
    """Whether a name is that of the demo or may be that of a copy."""
    plain = name.casefold()
    return plain == DEMO_USERNAME or plain.startswith(f"{DEMO_USERNAME}-")


def enter(request: HttpRequest, demo: DemoAccount) -> User:
    """This device's copy of the demo, made now if it has none.

    Raises
    ------
    GuessedTooOften
        If many copies were made for this address lately.
    """
    known = _visit_of(request)
    visit = DemoVisit.objects.select_related("user").filter(pk=known).first() if known is not None else None
    if visit is None:
        throttle.require_room(request, throttle.VISITS)
        with transaction.atomic():
            user = get_user_model().objects.create_user(username=f"{DEMO_USERNAME}-{secrets.token_hex(4)}")
            visit = DemoVisit.objects.create(user=user, used_at=timezone.now())
            _bring_up(visit, demo)
        throttle.note(request, throttle.VISITS)
    return visit.user


def keep_up(user: User) -> DemoVisit | None:
    """The copy a user is, used now and with all that the demo has got since; None for accounts of other people."""
    visit = DemoVisit.objects.filter(user_id=user.pk).first()
    if visit is None:
        return None
    if timezone.now() - visit.used_at > NOTED_AGAIN:
        visit.used_at = timezone.now()
        # A full disk does not keep anybody from looking.
        with suppress(OperationalError):
            visit.save(update_fields=["used_at"])
    demo = DemoAccount.objects.first()
    if visit.to_come and demo is not None and demo.to_come < visit.to_come:
        with transaction.atomic():
            # Another request may have done it in the meantime.
            visit, demo = DemoVisit.objects.get(pk=visit.pk), DemoAccount.objects.get(pk=demo.pk)
            if visit.to_come != demo.to_come:
                _bring_up(visit, demo)
    return visit


def ends_at(visit: DemoVisit) -> datetime:
    return visit.used_at + KEPT


def remember(response: HttpResponse, visit: DemoVisit) -> None:
    """Let this device come back to the copy after signing out."""
    response.set_cookie(
        COOKIE,
        signing.dumps(visit.pk, salt=SALT),
        max_age=KEPT,
        httponly=True,
        samesite="Lax",
        secure=settings.SESSION_COOKIE_SECURE,
    )


def sweep() -> int:
    """Remove copies that nobody used for a day; how many went."""
    old = get_user_model().objects.filter(visit__used_at__lt=timezone.now() - KEPT)
    count = old.count()
    old.delete()
    return count


def _bring_up(visit: DemoVisit, demo: DemoAccount) -> None:
    demo_visited.send(sender=DemoVisit, visit=visit, demo=demo)
    visit.to_come = demo.to_come
    visit.save()


def _visit_of(request: HttpRequest) -> int | None:
    try:
        found: int = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=KEPT)
    except signing.BadSignature:
        return None
    return found
