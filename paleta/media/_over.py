"""Which medium may lie on which. All rules are common practice (docs/trade-notes.md, section Coats)."""

from __future__ import annotations

from dataclasses import dataclass

from paleta.errors import SwatchError
from paleta.media._swatch import MEDIA


@dataclass(frozen=True, slots=True)
class Over:
    """What is known of one medium over another.

    may      whether the upper may lie there at all. why says what happens, or what to mind.
    wet      whether the two may meet while the lower is wet.
    """

    may: bool
    why: str
    wet: bool = False


_DRY = Over(True, "Once what lies below is dry.")
_WAX = Over(False, "Wax keeps what is wet off the paper: it beads, and the nib or pad clogs.")
_LIFTS = Over(False, "Water lifts blended ink again and carries its chalk about.")
_DISSOLVES = Over(False, "Water-soluble pen runs again under anything wet: nothing wet over what must stay.")
_PENCIL = Over(True, "Pencil takes on anything dry; a light hand, or it burnishes.")

RULES: dict[tuple[str, str], Over] = {
    ("pencil", "marker"): Over(False, "Marker never over wax pencil: the wax clogs the nib and the colour smears."),
    ("pencil", "watercolour"): _WAX,
    ("pencil", "soluble"): _WAX,
    ("pencil", "inkpad"): _WAX,
    ("pencil", "pencil"): Over(True, "Pencil over pencil does not dry and need not wait.", wet=True),
    ("inkpad", "watercolour"): _LIFTS,
    ("inkpad", "soluble"): _LIFTS,
    ("inkpad", "marker"): Over(True, "Only once the ink is wholly dry, and wipe the nib: it picks up chalk."),
    ("soluble", "watercolour"): _DISSOLVES,
    ("soluble", "marker"): _DISSOLVES,
    ("soluble", "inkpad"): _DISSOLVES,
    ("watercolour", "marker"): Over(True, "Only on a bone dry wash; the alcohol may move its pigment."),
    ("marker", "watercolour"): Over(True, "A thin glaze only: water beads on dye and takes long to dry."),
    ("watercolour", "soluble"): Over(True, "Soluble pen may be touched into a wash while it is wet.", wet=True),
}
"""(below, above): what is known. What is not listed may lie there once the lower is dry."""


def over(below: str, above: str) -> Over:
    """What is known of laying the medium `above` on `below`.

    Raises
    ------
    SwatchError
        If one is no medium.
    """
    for medium in (below, above):
        if medium not in MEDIA:
            raise SwatchError(f"The medium must be one of {', '.join(MEDIA)}, got {medium!r}.")
    return RULES.get((below, above), _PENCIL if above == "pencil" else _DRY)


def stack_fault(media: tuple[str, ...]) -> str:
    """What speaks against coats of these media, lowest first, in a sentence; empty if nothing does."""
    for place, above in enumerate(media):
        for below in media[:place]:
            found = over(below, above)
            if not found.may:
                return f"{MEDIA[above]} cannot lie over {MEDIA[below].lower()}. {found.why}"
    return ""
