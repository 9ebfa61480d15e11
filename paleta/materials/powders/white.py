"""White powder, for a line that colour leaves white."""

from paleta.materials._powder import Powder

POWDER = Powder("white", "White powder", (96.0, 0.0, 0.5), 2)
