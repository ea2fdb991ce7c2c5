"""Entries on a page: what a typed statement becomes, and what it moved."""
