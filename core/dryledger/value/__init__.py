"""Earned value at every scope: measures, earned schedule, curves."""
