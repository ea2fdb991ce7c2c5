"""Tests of the options room."""
