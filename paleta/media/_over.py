"""Which medium may lie on which. What is known stands with each medium (docs/trade-notes.md, section Coats)."""

from __future__ import annotations

from paleta.errors import SwatchError
from paleta.media._medium import Over
from paleta.media._registry import MEDIA, MEDIUMS


def over(below: str, above: str) -> Over:
    """What is known of laying the medium `above` on `below`.

    Parameters
    ----------
    below, above
        Codes of media.

    Raises
    ------
    SwatchError
        If one is no medium.
    """
    for medium in (below, above):
        if medium not in MEDIUMS:
            raise SwatchError(f"The medium must be one of {', '.join(MEDIUMS)}, got {medium!r}.")
    upper = MEDIUMS[above]
    return upper.lies_on.get(below, upper.lies_on_others)


def stack_fault(media: tuple[str, ...]) -> str:
    """What speaks against coats of these media, lowest first, in a sentence; empty if nothing does."""
    for place, above in enumerate(media):
        for below in media[:place]:
            found = over(below, above)
            if not found.may:
                return f"{MEDIA[above]} cannot lie over {MEDIA[below].lower()}. {found.why}"
    return ""
