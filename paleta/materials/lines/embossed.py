"""Powder melted on the wet line: a raised line that nothing moves."""

from paleta.materials._line import Line

LINE = Line("embossed", "Heat-embossed line", 3, raised=True)
