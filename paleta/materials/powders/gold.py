"""Gold powder, as it looks when the light does not strike it."""

from paleta.materials._powder import Powder

POWDER = Powder("gold", "Gold powder", (64.0, 4.0, 38.0), 3)
