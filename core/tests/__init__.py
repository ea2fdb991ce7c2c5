"""Tests of the core. Properties run the same examples every time, so that a red run can be run again."""

from hypothesis import settings

settings.register_profile("dry", deadline=None, derandomize=True)
settings.load_profile("dry")
