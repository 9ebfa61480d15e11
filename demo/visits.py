"""What a visitor's copy of the demo gets, while the demo is still being made too."""

from __future__ import annotations

from typing import Any

from demo.benches import PIECES
from server.accounts.models import DemoAccount, DemoVisit
from server.backup.services import copy_rows
from server.backup_registry import JsonRow

STEPS = len(PIECES) + 2
"""Of making the demo: its pieces in their order, then the logbook and the photos of cards."""


def bring_up(visit: DemoVisit, demo: DemoAccount, **_: Any) -> None:
    """Copy what is finished of the demo and not yet in the copy. What the visitor changed or deleted stays so."""

    def finished(section: str, line: JsonRow) -> bool:
        if section in ("pieces", "recipes"):
            return bool(line["number" if section == "pieces" else "piece"] <= STEPS - demo.to_come)
        return demo.to_come <= {"runs": 1, "checks": 0}.get(section, STEPS)

    homes = {(section, int(number)): key for section, keys in visit.copied.items() for number, key in keys.items()}
    copy_rows(demo.user, visit.user, homes, finished)
    visit.copied = {}
    for (name, number), key in homes.items():
        visit.copied.setdefault(name, {})[str(number)] = key
