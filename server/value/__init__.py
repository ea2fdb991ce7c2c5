"""Serves the figures of a book at a page: balance, measures, curves, working, timeline."""
