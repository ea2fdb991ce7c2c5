"""The paper that a timeline is printed on, and how much of it: known without the library that draws."""

PAPER = {"A4": (11.69, 8.27), "A3": (16.54, 11.69)}
"""Sheets lying, in inches."""
FITS = ("page", "tiled")
MOST_ROWS, MOST_SHEETS = 12_000, 400
