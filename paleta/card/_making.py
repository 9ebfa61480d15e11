"""The order of making: what is done before what, and why. Common practice (docs/trade-notes.md, Assembling)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from graphlib import TopologicalSorter

from paleta.card._spec import STEP_NAMES, CardSpec
from paleta.order import DRY_BEFORE, TOUCHES

SECONDS = {
    "write": 180, "greeting": 120, "alike": 30, "cut": 60, "score": 60, "dry": 0, "trim": 60, "cut out": 240,
    "mats": 60, "panel": 60, "inside": 60, "strip": 60, "foam": 120,
}  # fmt: skip
"""How long a step takes one card. From memory, to be taken as a first guess."""
GREETING_DRY_S = {False: 300.0, True: 60.0}
"""Until a stamped greeting is dry, and until an embossed one is cold. From memory, common practice."""
RULES = (
    ("write", "inside", "The inside is written before its panel is glued: a slip costs only the panel."),
    ("write", "panel", "The inside is written before the picture is glued on: a slip costs only the base."),
    ("write", "mats", "The inside is written before anything is glued to the front."),
    ("greeting", "trim", "The greeting is stamped before the picture is trimmed, so that both come out in the middle."),
    ("greeting", "dry", "The greeting's ink must dry as well."),
    ("greeting", "strip", "The strip is stamped before it is set."),
    ("alike", "trim", "Both pictures are finished alike before either is trimmed."),
    ("cut", "score", "The base is cut before it is scored."),
    ("score", "mats", "The base is folded before it carries anything."),
    ("score", "panel", "The base is folded before it carries anything."),
    ("score", "inside", "The base is folded before a panel goes inside."),
    ("cut", "mats", "A mat is cut before it is glued."),
    ("dry", "trim", "A wet edge smears under the ruler."),
    ("dry", "cut out", "A wet piece smears under the hand that turns it."),
    ("dry", "mats", "Wet gloss, gel or glitter spoils what is laid on it: everything is dry before layering."),
    ("dry", "panel", "Wet gloss, gel or glitter spoils what is laid on it: everything is dry before layering."),
    ("dry", "strip", "Everything is dry before layering."),
    ("dry", "foam", "Everything is dry before layering."),
    ("trim", "panel", "The picture is trimmed before it is glued on."),
    ("mats", "panel", "The mats lie beneath the picture."),
    ("panel", "strip", "The strip lies on the picture."),
    ("panel", "foam", "What stands on foam comes last: nothing can be pressed down round it."),
    ("cut out", "foam", "What stands on foam is cut out first."),
    ("inside", "foam", "Foam comes last: the card cannot be pressed flat any more."),
    ("strip", "foam", "Foam comes last: nothing can be pressed down round it."),
)
"""(before, after, why). Of steps that a card does not have nothing is asked."""


HOW = {
    "alike": "Every colour, touch and line on one is on the other; both cut at the same place.",
    "cut": "After the cutting plan. Blades away from the fingers.",
    "score": "Score on the line, fold away from the groove, rub down with a bone folder.",
    "dry": "Picture, greeting and finishing touches; touch nothing meanwhile.",
    "trim": "By the crop laid on the picture.",
    "mats": "From the largest up, each in the middle of the one below.",
    "panel": "Flat; under books overnight if it warps.",
    "inside": "On the inside of the back, clear of the fold.",
    "strip": "Ends cut square.",
    "foam": "More foam under what is in front; glue where pieces lie flat.",
}
GREETING_HOW = {
    False: "with the positioning tool; wait until it no longer smudges.",
    True: "embossed: powder bag first, clear or pigment ink, powder, heat from behind and then from the front. "
    "Never heat wet alcohol ink.",
}


@dataclass(frozen=True, slots=True)
class MakingStep:
    """A step: its code, name, how it is done, seconds of work, and seconds to wait before it."""

    code: str
    name: str
    how: str
    work_s: float
    wait_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Conflict:
    """Two steps in the wrong order, and why that is wrong."""

    before: str
    after: str
    sentence: str


def steps_of(spec: CardSpec) -> tuple[str, ...]:
    """Codes of the steps this card has, in the trade's order."""
    greeting, inside = spec.greeting, spec.inside
    lifted = any(layer.foam for layer in (*spec.mats, spec.panel)) or bool(
        greeting and greeting.strip and greeting.foam
    )
    there = {
        "write": inside is not None and bool(inside.text.strip()),
        "greeting": greeting is not None,
        "alike": spec.pull_out,
        "cut": True,
        "score": bool(spec.base.scores),
        "dry": True,
        "trim": bool(spec.panel.trim),
        "cut out": bool(spec.cutouts),
        "mats": bool(spec.mats),
        "panel": True,
        "inside": inside is not None and inside.panel,
        "strip": greeting is not None and greeting.strip and not greeting.foam,
        "foam": lifted or bool(spec.cutouts),
    }
    return tuple(code for code in STEP_NAMES if there[code])


def making(spec: CardSpec, touches: Sequence[str] = (), media: Sequence[str] = ("marker",)) -> list[MakingStep]:
    """The steps in the maker's order, or in one that breaks no rule; with what has to be waited for.

    Parameters
    ----------
    spec
        The card.
    touches
        Finishing touches, keys of TOUCHES.
    media
        What it is coloured in, keys of MEDIA.
    """
    steps = steps_of(spec)
    by_hand = [code for code in spec.making if code in steps]
    # A step that came to the card after its order was set by hand goes where it would by itself.
    order = _merged(by_hand, steps) if by_hand else _sorted(steps)
    waits = {"dry": drying_s(spec, touches, media)}
    return [MakingStep(code, STEP_NAMES[code], _how(code, spec), SECONDS[code], waits.get(code, 0.0)) for code in order]


def check_making(order: Sequence[str]) -> list[Conflict]:
    """Every pair of steps that stands the wrong way round in `order`."""
    place = {code: number for number, code in enumerate(order)}
    return [
        Conflict(before, after, why)
        for before, after, why in RULES
        if before in place and after in place and place[before] > place[after]
    ]


def drying_s(spec: CardSpec, touches: Sequence[str], media: Sequence[str]) -> float:
    """Until everything on the picture is dry, counted from the last of what was laid on it.

    Parameters
    ----------
    spec
        The card.
    touches
        Finishing touches, keys of TOUCHES.
    media
        What it is coloured in, keys of MEDIA.
    """
    greeting = [GREETING_DRY_S[spec.greeting.embossed]] if spec.greeting else []
    return max([*(DRY_BEFORE[medium] for medium in media), *(TOUCHES[code].dry_s for code in touches), *greeting])


def _sorted(steps: Sequence[str]) -> list[str]:
    after: Mapping[str, set[str]] = {code: set() for code in steps}
    for before, later, _ in RULES:
        if before in after and later in after:
            after[later].add(before)
    sorter = TopologicalSorter(after)
    sorter.prepare()
    order, ready = [], set(sorter.get_ready())
    while ready:
        # Of what may be done now, what the trade does first.
        code = min(ready, key=steps.index)
        ready.remove(code)
        order.append(code)
        sorter.done(code)
        ready.update(sorter.get_ready())
    return order


def _merged(by_hand: Sequence[str], steps: Sequence[str]) -> list[str]:
    order = list(by_hand)
    for number, code in enumerate(steps):
        if code not in order:
            earlier = [one for one in steps[:number] if one in order]
            order.insert(max((order.index(one) + 1 for one in earlier), default=0), code)
    return order


def _how(code: str, spec: CardSpec) -> str:
    greeting, inside = spec.greeting, spec.inside
    if code == "write" and inside is not None:
        words = f'"{inside.text.strip()}"'
        return f"{words}, on the panel while it is loose." if inside.panel else f"{words}."
    if code == "greeting" and greeting is not None:
        return f"{'On its strip' if greeting.strip else 'On the picture'}, {GREETING_HOW[greeting.embossed]}"
    if code == "cut out":
        return ", ".join(one.name for one in spec.cutouts) + ": along the cut lines. File burrs, sweep the table."
    if code == "panel" and spec.panel.foam:
        return "On foam, with the foam cut smaller."
    return HOW[code]
