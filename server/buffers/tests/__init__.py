"""Tests of the buffers room."""
