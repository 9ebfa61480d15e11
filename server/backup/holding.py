"""An account that holds what a restore has brought so far: nobody's to sign in to, and handed over once all is there.

The database has one writer at a time. A large restore takes minutes, so it writes in short transactions, between which
others have their turn; only the handing over is one.
"""

from __future__ import annotations

import secrets
import time
from collections.abc import Callable, Iterator
from datetime import timedelta
from typing import TypeVar

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from server.backup_registry import Restoring

PREFIX = "restore/"
"""No name that a person may choose has a stroke in it."""
LOCKED_S, FREE_S = 0.3, 0.02
AT_ONCE = 100
OLD = timedelta(hours=12)
One = TypeVar("One")


def open_holder() -> User:
    return get_user_model().objects.create(username=f"{PREFIX}{secrets.token_hex(8)}", password="!", is_active=False)


def in_short_transactions(ones: Iterator[One], do: Callable[[One], object]) -> None:
    """Do it with each, the database being locked for LOCKED_S at a time."""
    ended = False
    while not ended:
        until = time.monotonic() + LOCKED_S
        with transaction.atomic():
            for one in ones:
                do(one)
                if time.monotonic() > until:
                    break
            else:
                ended = True
        if not ended:
            time.sleep(FREE_S)


def hand_over(restoring: Restoring) -> None:
    """Inside a transaction: what the holder has is the owner's."""
    for model in restoring.models.values():
        if any(one.name == "owner" for one in model._meta.concrete_fields):
            model._base_manager.filter(owner=restoring.holder).update(owner=restoring.owner)


def take_back(restoring: Restoring) -> None:
    """Nothing of it stays."""
    for undo in reversed(restoring.undo):
        undo()
    _remove(restoring.holder)


def sweep() -> int:
    """Remove what restores left that were killed; how many."""
    left = get_user_model().objects.filter(username__startswith=PREFIX, date_joined__lt=timezone.now() - OLD)
    for holder in left:
        _remove(holder)
    return len(left)


def _remove(holder: User) -> None:
    # In parts, or all sheets of a large restore would be in memory at once.
    for relation in holder._meta.related_objects:
        if relation.field.name == "owner":
            owned = relation.related_model._base_manager.filter(owner=holder)
            while keys := list(owned.values_list("pk", flat=True)[:AT_ONCE]):
                owned.filter(pk__in=keys).delete()
    holder.delete()
