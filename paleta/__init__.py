"""The core of Paleta: numbers in, numbers out.

Plain Python on numpy arrays and frozen dataclasses. No Django, no HTTP, no global state and no reading of
files it was not handed. Arrays speak (row, col); light speaks (x, y, z) in page coordinates: x to the right,
y down the page, z towards the viewer.
"""
