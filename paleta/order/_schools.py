"""All schools of shade order, by their codes; each is written with its medium (paleta.media)."""

from __future__ import annotations

from paleta.errors import SchoolError
from paleta.media import MEDIUMS, School

SCHOOLS: dict[str, School] = {school.code: school for medium in MEDIUMS.values() for school in medium.schools}
DEFAULT_SCHOOL = {code: medium.usual_school for code, medium in MEDIUMS.items()}


def school_named(code: str) -> School:
    """The school with this code.

    Raises
    ------
    SchoolError
        If there is none.
    """
    if code not in SCHOOLS:
        raise SchoolError(f"There is no school {code!r}. Known are {', '.join(SCHOOLS)}.")
    return SCHOOLS[code]
