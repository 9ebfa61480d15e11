"""How each medium of a work is laid: by which school, and at which pace."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from paleta.errors import SchoolError
from paleta.media import MEDIA, Pace, School
from paleta.order._paces import PACES
from paleta.order._schools import DEFAULT_SCHOOL, SCHOOLS
from paleta.order._work import Job

Schools = School | Mapping[str, School]
Paces = Pace | Mapping[str, Pace]


@dataclass(frozen=True, slots=True)
class Ways:
    """School and pace by medium. `usual` is the medium of jobs that name none."""

    usual: str
    schools: Mapping[str, School]
    paces: Mapping[str, Pace]

    @staticmethod
    def of(school: Schools, pace: Paces | None = None) -> Ways:
        """One school and one pace, or some by their medium; common practice for every medium that is not named.

        Raises
        ------
        SchoolError
            If no school is named, or one stands under a medium that is not its own.
        """
        named = {school.medium: school} if isinstance(school, School) else dict(school)
        if not named:
            raise SchoolError("At least one school of shade order must be named.")
        wrong = next((one for medium, one in named.items() if one.medium != medium), None)
        if wrong is not None:
            raise SchoolError(f"{wrong.name} is no school for another medium than {MEDIA[wrong.medium].lower()}.")
        usual = next(iter(named))
        paces = {usual: pace} if isinstance(pace, Pace) else dict(pace or {})
        usual_schools = {medium: SCHOOLS[code] for medium, code in DEFAULT_SCHOOL.items()}
        return Ways(usual, {**usual_schools, **named}, {**PACES, **paces})

    def medium_of(self, job: Job) -> str:
        return job.medium or self.usual

    def school_of(self, job: Job) -> School:
        """The school a job is laid by: its own, or that of its medium."""
        return job.school or self.schools[self.medium_of(job)]
