"""Guesses at passwords and new accounts are counted, and too many of them wait."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from django.core.cache import cache
from django.http import HttpRequest
from rest_framework.exceptions import Throttled


@dataclass(frozen=True)
class Limit:
    """So many within so long."""

    most: int
    within_s: int


WRONG_FOR_NAME = Limit(10, 600)
WRONG_FROM_ADDRESS = Limit(30, 600)
OPENED_FROM_ADDRESS = Limit(10, 3600)


class GuessedTooOften(Throttled):
    default_detail = "Too many tries. Wait a few minutes and try again."
    extra_detail_singular = extra_detail_plural = ""

    def __init__(self, wait_s: int) -> None:
        super().__init__()
        self.wait = wait_s


def check_rate_limit(request: HttpRequest, name: str) -> None:
    """Raise GuessedTooOften before a password is even looked at, if too many were wrong lately."""
    for key, limit in _guesses(request, name):
        if cache.get(key, 0) >= limit.most:
            raise GuessedTooOften(limit.within_s)


def note_wrong_guess(request: HttpRequest, name: str) -> None:
    for key, limit in _guesses(request, name):
        _count(key, limit)


def forget_guesses(request: HttpRequest, name: str) -> None:
    """The right password was given: the name's count starts anew."""
    cache.delete(_guesses(request, name)[0][0])


def require_room_for_accounts(request: HttpRequest) -> None:
    """Raise GuessedTooOften if many accounts were opened from this address lately."""
    key = _key("opened", _address(request))
    if cache.get(key, 0) >= OPENED_FROM_ADDRESS.most:
        raise GuessedTooOften(OPENED_FROM_ADDRESS.within_s)


def note_account(request: HttpRequest) -> None:
    _count(_key("opened", _address(request)), OPENED_FROM_ADDRESS)


def _guesses(request: HttpRequest, name: str) -> list[tuple[str, Limit]]:
    return [(_key("name", name), WRONG_FOR_NAME), (_key("address", _address(request)), WRONG_FROM_ADDRESS)]


def _count(key: str, limit: Limit) -> None:
    cache.add(key, 0, limit.within_s)
    try:
        cache.incr(key)
    except ValueError:  # it ran out between the two lines
        cache.set(key, 1, limit.within_s)


def _address(request: HttpRequest) -> str:
    return request.META.get("REMOTE_ADDR", "")


def _key(kind: str, what: str) -> str:
    return f"guess-{kind}-{hashlib.sha256(what.casefold().encode(errors='replace')).hexdigest()}"
