"""Silver powder, as it looks when the light does not strike it."""

from paleta.materials._powder import Powder

POWDER = Powder("silver", "Silver powder", (70.0, -0.3, -1.5), 4)
