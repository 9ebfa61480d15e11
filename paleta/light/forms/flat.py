"""Lies flat."""

from paleta.light._form import Form

FORM = Form(
    code="flat",
    name="Flat",
    rank=1,
    icon="M4 16H36",
    right_side=0.0,
    sign=0.0,
    bulges=False,
    takes_base=False,
)
