"""What the core's packages offer says what it takes."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import unittest
from collections.abc import Callable, Iterator
from typing import Any

import paleta


def offered() -> Iterator[tuple[str, Callable[..., Any]]]:
    """Every function that a package of the core names in its `__all__`, as it was written."""
    packages = [one.name for one in pkgutil.walk_packages(paleta.__path__, "paleta.") if one.ispkg]
    for name in packages:
        package = importlib.import_module(name)
        for word in getattr(package, "__all__", ()):
            one = getattr(package, word)
            function = inspect.unwrap(getattr(one, "py_func", one))  # as Numba and caches were given it
            if inspect.isfunction(function):
                yield f"{name}.{word}", function


class PublicFace(unittest.TestCase):
    def test_functions_of_two_arguments_and_more_say_what_each_is(self) -> None:
        told = 0
        for name, function in offered():
            arguments = list(inspect.signature(function).parameters)
            if len(arguments) < 2:
                continue
            told += 1
            with self.subTest(function=name):
                _, _, section = (function.__doc__ or "").partition("Parameters\n    ----------\n")
                named = {
                    word
                    for line in section.splitlines()
                    if line.startswith("    ") and not line.startswith("     ")
                    for word in line.replace(":", ",").replace(" ", "").split(",")
                }
                self.assertEqual([one for one in arguments if one not in named], [])
        self.assertGreater(told, 100)
