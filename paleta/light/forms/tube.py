"""Round across one direction."""

from paleta.light._form import Form

FORM = Form(
    code="tube",
    name="Tube",
    rank=3,
    icon="M9 5H33a3.5 7 0 0 1 0 14H9a3.5 7 0 0 1 0-14a3.5 7 0 0 1 0 14",
    noun="Strips",
    right_side=2.0,
    axis="set",
    sided=True,
)
