"""The same stamp again: a piece carried onto another stamping, and onto another paper."""

from paleta.restamp._other_paper import PaperChange, on_other_paper
from paleta.restamp._restamp import Restamped, restamp

__all__ = ["PaperChange", "Restamped", "on_other_paper", "restamp"]
