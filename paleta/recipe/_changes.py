"""What changed between two versions, in words."""

from __future__ import annotations

from paleta.recipe._recipe import Recipe
from paleta.recipe._sheet import changes_between


def what_changed(before: Recipe, after: Recipe) -> list[str]:
    """Sentences from the sheet's top to its end; empty if nothing that matters differs.

    Parameters
    ----------
    before, after
        Versions of one recipe.
    """
    lines = changes_between(before.sheet, after.sheet)
    old, new = before.plan, after.plan
    if old.pen_changes != new.pen_changes or len(old.passes) != len(new.passes):
        lines["order"].append(
            f"Order: {len(old.passes)} passes and {old.pen_changes} pen changes became "
            f"{len(new.passes)} and {new.pen_changes}."
        )
    return [line for part in lines.values() for line in part]
