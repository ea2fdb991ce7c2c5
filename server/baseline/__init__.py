"""Frozen copies of the plan."""
