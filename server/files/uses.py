"""Which rows name which files: what a sweep leaves, what counts for an account, and what is missing, by one list.

An app whose rows name files says so once, when it is made ready: `refers(named)`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any, NamedTuple

from server.files import store


class FileUse(NamedTuple):
    """A file that a row names: whose the row is, and of which piece; None where the piece was taken off the shelf."""

    owner_id: int
    piece_id: int | None
    name: str


@dataclass(frozen=True, slots=True)
class Scope:
    """Whose rows are asked for: all, those of an owner, or those of one piece. `loose`: only those of no piece."""

    owner_id: int | None = None
    piece_id: int | None = None
    loose: bool = False

    def lookup(self, owner: str, piece: str) -> dict[str, Any]:
        """As arguments to a query's `filter`, for a model that leads to its owner and piece by these names."""
        narrowed: dict[str, Any] = {}
        if self.owner_id is not None:
            narrowed[owner] = self.owner_id
        if self.piece_id is not None:
            narrowed[piece] = self.piece_id
        if self.loose:
            narrowed[f"{piece}__isnull"] = True
        return narrowed


_holders: list[Callable[[Scope], Iterable[FileUse]]] = []


def refers(named: Callable[[Scope], Iterable[FileUse]]) -> None:
    """`named` gives every file that an app's rows name."""
    _holders.append(named)


def uses(scope: Scope) -> Iterator[FileUse]:
    """Every use of a file; a file may be named by many rows."""
    for holder in _holders:
        for use in holder(scope):
            if use.name:
                yield use


def bytes_of(scope: Scope) -> int:
    """How much the files of a scope take on disk, each counted once."""
    return sum(store.size_of(name) for name in {use.name for use in uses(scope)})
