"""Swatch charts: laid out, drawn as PDF or picture, and read back from a photo."""

from paleta.chart._draw import chart_picture, chart_to_pdf
from paleta.chart._layout import Chart, lay_out_chart
from paleta.chart._read import Reading, read_chart

__all__ = ["Chart", "Reading", "chart_picture", "chart_to_pdf", "lay_out_chart", "read_chart"]
