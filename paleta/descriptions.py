"""Things of the trade that are described in a module each: media, forms, papers, lines. Adding one is adding a file."""

from __future__ import annotations

import pkgutil
from collections.abc import Iterable
from importlib import import_module
from typing import Protocol, TypeVar


class Described(Protocol):
    """code  unique among its kind, and the name of its module, with - written as _.
    rank  its place in lists."""

    @property
    def code(self) -> str: ...

    @property
    def rank(self) -> int: ...


def codes_in(folders: Iterable[str]) -> tuple[str, ...]:
    """Codes of what the modules of a package (its `__path__`) describe; those with an underscore in front describe
    nothing."""
    names = sorted(one.name for one in pkgutil.iter_modules(folders))
    return tuple(name.replace("_", "-") for name in names if not name.startswith("_"))


Kind = TypeVar("Kind", bound=Described)


def described_in(package: str, kind: type[Kind]) -> dict[str, Kind]:
    """What each module of `package` calls by the name of `kind` in capitals, by code, in the order of lists.

    Parameters
    ----------
    package
        its dotted name
    kind
        the class of the descriptions

    Raises
    ------
    ValueError
        If a module describes something under another code than its own name.
    """
    found: list[Kind] = []
    for code in codes_in(import_module(package).__path__):
        name = f"{package}.{code.replace('-', '_')}"
        one: Kind = getattr(import_module(name), kind.__name__.upper())
        if one.code != code:
            raise ValueError(f"{name} describes {one.code!r}.")
        found.append(one)
    return {one.code: one for one in sorted(found, key=lambda one: one.rank)}
