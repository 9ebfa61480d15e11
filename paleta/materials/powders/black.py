"""Black powder: a raised line that looks like a stamped one."""

from paleta.materials._powder import Powder

POWDER = Powder("black", "Black powder", (17.0, 0.2, -0.5), 1)
