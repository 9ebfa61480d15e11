"""Cards and second stampings made by script, to measure the photo check and stamping again on.

`recipe(seed)` is a recipe by chance on a drawing by chance, `made_card(seed, light)` a card made along it with faults,
photographed in one of paleta.devices.HOME_LIGHTS; `pair(kind, seed)` two stampings of one drawing. Seeds from HELD_BACK
on are never looked at while the check is worked on.
"""

from tools.photo_check._cards import HELD_BACK, MadeCard, made_card, recipe
from tools.photo_check._pairs import KINDS, Pair, pair
from tools.photo_check._table import rate, show

__all__ = ["HELD_BACK", "KINDS", "MadeCard", "Pair", "made_card", "pair", "rate", "recipe", "show"]
