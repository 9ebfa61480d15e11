"""Do line, paper and medium go together? What speaks against a choice stands with each medium."""

from __future__ import annotations

from collections.abc import Iterable

from paleta.errors import RecipeError
from paleta.materials import LINES, PAPERS, Paper
from paleta.media import MEDIA, MEDIUMS, Advice

WATER_WORDS = {"none": "not for water", "little": "for a little water", "much": "for water"}
TONED_BELOW = 85.0
"""L* of a paper that counts as toned."""


def fit(medium: str, line: str, paper: Paper | str) -> tuple[Advice, ...]:
    """Everything that speaks against this choice; empty if nothing does. A paper that ships may be named by its code.

    Parameters
    ----------
    medium
        A key of MEDIA.
    line
        A key of LINES.
    paper
        Whole, or a key of PAPERS.

    Raises
    ------
    RecipeError
        If medium, line or paper is unknown.
    """
    words: list[tuple[str, Iterable[str]]] = [(medium, MEDIA), (line, LINES)]
    if isinstance(paper, str):
        words.append((paper, PAPERS))
    for word, known in words:
        if word not in known:
            raise RecipeError(f"{word!r} is none of {', '.join(known)}.")
    sort = sort_of(PAPERS[paper] if isinstance(paper, str) else paper)
    return tuple(
        rule.advice
        for rule in MEDIUMS[medium].fits
        if rule.lines & LINES[line].words or any(asked <= sort for asked in rule.papers)
    )


def sort_of(paper: Paper) -> frozenset[str]:
    """What matters of a paper: its surface, whether it is toned, how it takes water, and how it behaves."""
    toned = "toned" if paper.lab[0] < TONED_BELOW else "white"
    return frozenset({paper.surface, toned, WATER_WORDS[paper.water], *paper.behaves})
