"""Do outline ink, paper and medium go together? All rules are common practice (docs/trade-notes.md, section Fit)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from paleta.errors import RecipeError
from paleta.media import INKS, MEDIA, PAPERS, Paper

TONED_BELOW = 85.0
"""L* of a paper that counts as toned."""


@dataclass(frozen=True, slots=True)
class Advice:
    """What does not go together and why, and what to do instead. A wrong pair can be kept, knowingly."""

    why: str
    instead: str


@dataclass(frozen=True, slots=True)
class Fit:
    """A rule: it applies to `medium` with any of `inks`, or on a paper of all words of one of `papers`."""

    medium: str
    advice: Advice
    inks: frozenset[str] = frozenset()
    papers: tuple[frozenset[str], ...] = ()


FITS: tuple[Fit, ...] = (
    Fit(
        "marker",
        Advice(
            "Slow pigment ink is dragged grey by alcohol marker.",
            "Stamp with dye ink made for alcohol markers, or test a heat-set line first.",
        ),
        inks=frozenset({"waterproof"}),
    ),
    Fit(
        "marker",
        Advice(
            "Marker spreads and turns grainy on watercolour paper.", "Take very smooth, heavy card of about 250 g/m2."
        ),
        papers=(frozenset({"for water"}), frozenset({"tooth"}), frozenset({"rough"})),
    ),
    Fit(
        "marker",
        Advice(
            "A marker only darkens: its pale shades vanish on toned paper.",
            "Take white card, or pencil, which can lighten toned paper.",
        ),
        papers=(frozenset({"toned"}),),
    ),
    Fit(
        "watercolour",
        Advice(
            "Water-based dye ink runs when it gets wet.", "Stamp with waterproof ink, bone dry, or emboss the line."
        ),
        inks=frozenset({"dye"}),
    ),
    Fit(
        "watercolour",
        Advice(
            "Pale ink for no-line work is often not waterproof.", "Paint over a stamped scrap first and see if it runs."
        ),
        inks=frozenset({"pale"}),
    ),
    Fit(
        "watercolour",
        Advice(
            "Card that is not made for water buckles under washes.",
            "Take watercolour paper of 300 g/m2, or smooth bristol with very little water.",
        ),
        papers=(frozenset({"not for water"}),),
    ),
    Fit(
        "soluble",
        Advice(
            "Water-based dye ink runs when the colour is pulled with water.",
            "Stamp with waterproof ink, bone dry, or emboss the line.",
        ),
        inks=frozenset({"dye", "pale"}),
    ),
    Fit(
        "soluble",
        Advice(
            "Card that is not made for water pills and buckles when the colour is pulled.",
            "Take watercolour paper of 300 g/m2, and never scrub back over a dark area.",
        ),
        papers=(frozenset({"not for water"}),),
    ),
    Fit(
        "inkpad",
        Advice(
            "Watercolour paper takes blended ink in blotches.",
            "Take smooth bristol or card; it blends visibly better.",
        ),
        papers=(frozenset({"for water"}), frozenset({"rough"})),
    ),
    Fit(
        "pencil",
        Advice("Wax finds no hold on a glossy paper and smears.", "Take a paper with a little tooth."),
        papers=(frozenset({"glossy"}),),
    ),
    Fit(
        "watercolour",
        Advice("Water stands on a glossy paper and dries in spots.", "Take watercolour paper of 300 g/m2."),
        papers=(frozenset({"glossy"}),),
    ),
)


def fit(medium: str, ink: str, paper: Paper | str) -> tuple[Advice, ...]:
    """Everything that speaks against this choice; empty if nothing does. A paper that ships may be named by its code.

    Raises
    ------
    RecipeError
        If medium, ink or paper is unknown.
    """
    words: list[tuple[str, Iterable[str]]] = [(medium, MEDIA), (ink, INKS)]
    if isinstance(paper, str):
        words.append((paper, PAPERS))
    for word, known in words:
        if word not in known:
            raise RecipeError(f"{word!r} is none of {', '.join(known)}.")
    sort = sort_of(PAPERS[paper] if isinstance(paper, str) else paper)
    return tuple(
        rule.advice
        for rule in FITS
        if rule.medium == medium and (ink in rule.inks or any(asked <= sort for asked in rule.papers))
    )


def sort_of(paper: Paper) -> frozenset[str]:
    """What matters of a paper: its surface, whether it is toned, and whether it is made for water."""
    words = {paper.surface, "toned" if paper.lab[0] < TONED_BELOW else "white"}
    return frozenset({*words, "for water" if paper.kind == "watercolour" else "not for water"})
