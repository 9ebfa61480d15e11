"""Who may see and change what: the filter for lists and the check for single objects, side by side."""

from typing import TypeVar

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import Model, QuerySet
from django.http import Http404

Owned = TypeVar("Owned", bound=Model)
Actor = AbstractBaseUser | AnonymousUser


def owned_by(queryset: QuerySet[Owned], actor: Actor) -> QuerySet[Owned]:
    """Only what belongs to `actor`."""
    return queryset.filter(owner_id=actor.pk) if actor.pk else queryset.none()


def require_owner(actor: Actor, thing: Model) -> None:
    """Raise Http404 unless `thing` belongs to `actor`: someone else's is as if it were not there."""
    if actor.pk is None or getattr(thing, "owner_id", None) != actor.pk:
        raise Http404
