"""Clear powder: over coloured ink the ink shows, over clear ink the paper does."""

from paleta.materials._powder import Powder

POWDER = Powder("clear", "Clear powder", None, 5)
