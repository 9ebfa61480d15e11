"""Judgements on a sheet before a pen is uncapped."""

from paleta.checks._fit import FITS, Advice, fit

__all__ = ["FITS", "Advice", "fit"]
