"""The colour reader at hand, a simulated stand-in: held on its white tile once a session, then on what is measured."""

from __future__ import annotations

from typing import Any

from django.contrib.sessions.backends.base import SessionBase

from paleta.colour import Lab, difference, lab_to_hex
from paleta.devices import SimulatedReader, averaged

TILE = "reader_saw_tile"
"""Kept in the session: whether the reader was held on its white tile, and how often it has read since."""


def hold_on_tile(session: SessionBase) -> dict[str, Any]:
    session[TILE] = 1
    return {"simulated": True, "lab": None, "hex": None, "difference": None}


def hold_on(session: SessionBase, truth: Lab, known: Lab) -> dict[str, Any]:
    """The average of three reads of what truly is `truth`, and how far that is from what is `known` of it.

    Raises
    ------
    ReaderNotReady
        If the white tile was not shown in this sitting.
    """
    seen = session.get(TILE)
    lab = averaged(SimulatedReader(seen or 0, calibrated=seen is not None), truth)
    session[TILE] = (seen or 0) + 1
    return {
        "simulated": True,
        "lab": lab,
        "hex": lab_to_hex(lab),
        "difference": round(float(difference(lab, known)), 1),
    }
