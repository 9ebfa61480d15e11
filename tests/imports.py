"""What a source file imports, read from its text."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path


def imported(path: Path) -> set[str]:
    """Full names of the modules and things a file imports."""
    return set(_imported(ast.parse(path.read_text())))


def _imported(tree: ast.Module) -> Iterator[str]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        if isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
            yield from (f"{node.module}.{alias.name}" for alias in node.names)
