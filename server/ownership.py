"""Who may see and change what: the filter for lists and the check for single objects, side by side."""

from typing import Generic, Self, TypeVar

from django.contrib.auth.models import AnonymousUser, User
from django.db.models import Model, QuerySet
from django.http import Http404

Owned = TypeVar("Owned", bound=Model)
Actor = User | AnonymousUser


class OwnedQuerySet(QuerySet[Owned], Generic[Owned]):
    def owned_by(self, actor: Actor) -> Self:
        """Only what belongs to `actor`."""
        return self.filter(owner_id=actor.pk) if actor.pk else self.none()


def locked(thing: Owned) -> Owned:
    """The row as it is now, for changing it inside the running transaction.

    Raises
    ------
    Http404
        If it was deleted meanwhile, as by another tab.
    """
    current = type(thing)._default_manager.select_for_update().filter(pk=thing.pk).first()
    if current is None:
        raise Http404
    return current


def require_owner(actor: Actor, thing: Model) -> None:
    """Raise Http404 unless `thing` belongs to `actor`: someone else's is as if it were not there."""
    if actor.pk is None or getattr(thing, "owner_id", None) != actor.pk:
        raise Http404
