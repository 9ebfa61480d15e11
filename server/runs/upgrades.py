"""Runs as they were kept before there were coats, when a run was in one medium."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from paleta.recipe import sheet_4_to_5, sheet_5_to_6


def upgraded_run(values: Mapping[str, Any]) -> dict[str, Any]:
    """A run's pace and times by medium, and its sheet as sheets are today; what has them already stays."""
    pace, times, sheet, medium = values["pace"], values["times"], values["sheet"], values["medium"]
    if pace is not None and "start_s" in pace:
        pace = {medium: pace}
    if isinstance(times, list):
        times = {medium: times} if times else {}
    if sheet is not None and "under_swatches" in sheet["colours"]:
        sheet = sheet_4_to_5(sheet)
    if sheet is not None and "powder" not in sheet["stamp"]:
        sheet = sheet_5_to_6(sheet)
    return {**values, "pace": pace, "times": times, "sheet": sheet}
