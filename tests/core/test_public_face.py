"""What the core offers is there, and says what it takes."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import unittest
from collections.abc import Callable, Iterator
from types import ModuleType
from typing import Any

import paleta


def modules() -> Iterator[ModuleType]:
    for one in pkgutil.walk_packages(paleta.__path__, "paleta."):
        yield importlib.import_module(one.name)


def functions_of(module: ModuleType) -> Iterator[tuple[str, Callable[..., Any]]]:
    """The functions written in a module under names for others, as they were before Numba and caches took them."""
    for name, one in vars(module).items():
        function = inspect.unwrap(getattr(one, "py_func", one))
        if inspect.isfunction(function) and function.__module__ == module.__name__ and not name.startswith("_"):
            yield f"{module.__name__}.{name}", function


class PublicFaceTest(unittest.TestCase):
    def test_what_a_package_offers_is_there(self) -> None:
        for module in modules():
            for name in getattr(module, "__all__", ()):
                self.assertTrue(hasattr(module, name), f"{module.__name__}.{name}")

    def test_functions_of_two_arguments_and_more_say_what_each_is(self) -> None:
        told = 0
        for name, function in (one for module in modules() for one in functions_of(module)):
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
        self.assertGreater(told, 200)
