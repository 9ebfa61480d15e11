"""Sinks in as a dome rises."""

from paleta.light._form import Form

FORM = Form(
    code="hollow",
    name="Hollow",
    rank=7,
    icon="M4 8A16 14 0 0 0 36 8",
    noun="Hollows",
    right_side=4.0,
    sign=-1.0,
)
