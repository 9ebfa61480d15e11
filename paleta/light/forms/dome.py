"""Bulges like half a ball; what a region is taken for at first."""

from paleta.light._form import Form

FORM = Form(code="dome", name="Dome", rank=2, icon="M4 20A16 16 0 0 1 36 20", right_side=4.0, sided=True)
