"""Cards and second stampings made by script, to measure the photo check and stamping again on.

`recipe(seed)` is a recipe by chance on a drawing by chance, `made_card(seed, light)` a card made along it with faults,
photographed in one of paleta.devices.HOME_LIGHTS; `other_photo` photographs a card at another home, which was written
apart, with what can be the matter with photos; `pair(kind, seed)` two stampings of one drawing. Seeds from HELD_BACK
on are never looked at while the check is worked on.
"""

from tools.photo_check._cards import HELD_BACK, MadeCard, made_card, recipe
from tools.photo_check._other_home import ODD, other_photo
from tools.photo_check._pairs import KINDS, Pair, pair
from tools.photo_check._table import rate, show

__all__ = [
    "HELD_BACK",
    "KINDS",
    "ODD",
    "MadeCard",
    "Pair",
    "made_card",
    "other_photo",
    "pair",
    "rate",
    "recipe",
    "show",
]
