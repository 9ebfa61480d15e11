"""Guesses at passwords and new accounts are counted, and too many of them wait.

Guesses count for a name and where they come from together, so that nobody locks out somebody else. A device that signed
in to a name before counts for itself: whoever guesses from the same address does not hold it up. Counts outlast a
restart, and are taken before a password is looked at, so that guesses at one moment are not all looked at.
"""

from __future__ import annotations

import hashlib
import logging
import secrets
import time
from functools import cache
from typing import Any

from diskcache import Cache
from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from rest_framework.exceptions import Throttled

log = logging.getLogger(__name__)
FREE_GUESSES, LONGEST_S = 5, 600
"""After so many wrong ones each waits twice as long as the one before, up to so many seconds. From memory."""
FREE_FROM_ADDRESS = 30
"""Names of others may be guessed at from one address; so many times nobody waits."""
OPENED, VISITS = ("opened", 10), ("visited", 60)
"""New accounts, and copies of the demo: so many from one address within OPENED_WITHIN_S."""
OPENED_WITHIN_S = 3600
REMEMBERED_S = 86_400
"""Wrong guesses are forgotten a day after the last."""
DEVICE_COOKIE, DEVICE_SALT, MOST_NAMES = "paleta-device", "a device that signed in before", 8
DEVICE_S = 365 * 86_400


class GuessedTooOften(Throttled):
    default_detail = "Too many tries. Wait a few minutes and try again."
    extra_detail_singular = extra_detail_plural = ""

    def __init__(self, wait_s: float) -> None:
        super().__init__()
        self.wait = wait_s


def take_guess(request: HttpRequest, name: str) -> None:
    """Count a guess at the password of `name`, before it is looked at.

    Raises
    ------
    GuessedTooOften
        If it has to wait; then it does not count.
    """
    keys = _keys(request, name)
    with counts().transact():
        now, found = time.time(), {key: counts().get(key, (0, 0.0)) for key, _ in keys}
        until_s = max(until for _, until in found.values())
        if until_s > now:
            log.info("%r from %s has to wait", name, address_of(request))
            raise GuessedTooOften(until_s - now)
        for key, free in keys:
            count = found[key][0] + 1
            # The next one waits from now on; the right password takes that back.
            wait_s = min(2.0 ** (count - free), LONGEST_S) if count >= free else 0.0
            counts().set(key, (count, now + wait_s), expire=REMEMBERED_S)


def forget_guesses(request: HttpRequest, name: str) -> None:
    """The right password was given: it was no guess."""
    (own, _), *address = _keys(request, name)
    with counts().transact():
        counts().delete(own)
        for key, _ in address:
            count, _ = counts().get(key, (0, 0.0))
            counts().set(key, (max(0, count - 1), 0.0), expire=REMEMBERED_S)


def require_room(request: HttpRequest, counted: tuple[str, int]) -> None:
    """Raise GuessedTooOften if many accounts of this sort, OPENED or VISITS, were made from this address lately."""
    kind, most = counted
    if counts().get(_key(kind, address_of(request)), 0) >= most:
        raise GuessedTooOften(OPENED_WITHIN_S)


def note(request: HttpRequest, counted: tuple[str, int]) -> None:
    """Count an account that was made."""
    key = _key(counted[0], address_of(request))
    with counts().transact():
        counts().add(key, 0, expire=OPENED_WITHIN_S)
        counts().incr(key)


def remember_device(request: HttpRequest, response: HttpResponse, name: str) -> None:
    """Let this device sign in to `name` again, whatever others guess."""
    known = _device(request) or {"id": secrets.token_hex(8), "names": []}
    names = [name, *(one for one in known["names"] if one != name)][:MOST_NAMES]
    value = signing.dumps({"id": known["id"], "names": names}, salt=DEVICE_SALT)
    response.set_cookie(
        DEVICE_COOKIE, value, max_age=DEVICE_S, httponly=True, samesite="Lax", secure=settings.SESSION_COOKIE_SECURE
    )


def _keys(request: HttpRequest, name: str) -> list[tuple[str, int]]:
    """What a guess counts for, the name's own first, and how many are free there."""
    device = _device(request)
    if device is not None and name in device["names"]:
        return [(_key("device", f"{device['id']} {name}"), FREE_GUESSES)]
    address = address_of(request)
    return [(_key("name", f"{address} {name}"), FREE_GUESSES), (_key("address", address), FREE_FROM_ADDRESS)]


def _device(request: HttpRequest) -> dict[str, Any] | None:
    try:
        found: dict[str, Any] = signing.loads(
            request.COOKIES.get(DEVICE_COOKIE, ""), salt=DEVICE_SALT, max_age=DEVICE_S
        )
    except signing.BadSignature:
        return None
    return found


@cache
def counts() -> Cache:
    """On disk, shared by all threads and processes; one thing after the other within `transact`."""
    return Cache(str(settings.GUESSES_ROOT))


def address_of(request: HttpRequest) -> str:
    return request.META.get("REMOTE_ADDR", "")


def _key(kind: str, what: str) -> str:
    return f"{kind} {hashlib.sha256(what.casefold().encode(errors='replace')).hexdigest()}"
