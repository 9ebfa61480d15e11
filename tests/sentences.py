"""Which error sentences the tests have reached: `PALETA_RAISED=file ./test`, then `python -m tests.sentences file`.

Every error of the core and of the API that is made while tests run is written down with its place. What processes of
their own raise is not seen.
"""

from __future__ import annotations

import ast
import os
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from django.core.exceptions import ValidationError as DjangoValidationError
from django.core.management import CommandError
from rest_framework.exceptions import APIException, ValidationError

from paleta.errors import PaletaError

ROOT = Path(__file__).parents[1]
WHERE = os.environ.get("PALETA_RAISED")
NOT_SAID = {"AssertionError", "KeyError", "TypeError", "ValueError"}
"""Built-in errors: of the programmer, or the end of another error's sentence."""


def record() -> None:
    """Write down from now on where errors are made, if PALETA_RAISED says into which file."""
    if WHERE is None:
        return
    seen: set[str] = set()

    def watched(kind: type[Exception]) -> None:
        made = kind.__init__

        def init(self: Exception, *given: Any, **named: Any) -> None:
            frame = sys._getframe(1)
            while frame.f_locals.get("self") is self and frame.f_back is not None:
                frame = frame.f_back
            place = f"{frame.f_code.co_filename}:{frame.f_lineno}"
            if place not in seen:
                seen.add(place)
                with open(WHERE, "a") as file:
                    file.write(f"{place}\n")
            made(self, *given, **named)

        kind.__init__ = init  # type: ignore[method-assign]

    from server.backup.archive import BackupUnreadable  # once Django is set up

    for one in (PaletaError, APIException, ValidationError, DjangoValidationError, CommandError, BackupUnreadable):
        watched(one)


def raised_at(path: Path) -> Iterator[tuple[int, int, str]]:
    """First and last line of each error that a file raises with words of its own, and its source."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call):
            name = ast.unparse(node.exc.func)
            if name not in NOT_SAID and name.rpartition(".")[2][0].isupper():
                yield node.lineno, node.end_lineno or node.lineno, ast.unparse(node.exc)


def main(seen_file: str) -> None:
    seen: dict[str, set[int]] = {}
    for place in Path(seen_file).read_text().split():
        name, _, line = place.rpartition(":")
        seen.setdefault(name, set()).add(int(line))
    reached = total = 0
    for folder in ("paleta", "server"):
        for path in sorted((ROOT / folder).rglob("*.py")):
            lines = seen.get(str(path), set())
            for first, last, source in raised_at(path):
                total += 1
                if any(first <= line <= last for line in lines):
                    reached += 1
                else:
                    print(f"{path.relative_to(ROOT)}:{first}  {source}")
    print(f"{reached} of {total} reached")


if __name__ == "__main__":
    main(sys.argv[1])
