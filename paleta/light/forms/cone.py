"""Round across the way from its base, which it narrows away from."""

from paleta.light._form import Form

FORM = Form(
    code="cone",
    name="Cone",
    rank=4,
    icon="M20 3L31 19a11 3 0 0 1-22 0Z",
    noun="Cones",
    right_side=2.0,
    axis="base",
    has_base=True,
    sided=True,
)
