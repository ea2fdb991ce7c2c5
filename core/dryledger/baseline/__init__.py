"""Frozen copies of the plan, and how far the present or another copy lies from one."""
