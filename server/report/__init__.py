"""Drafts and editions of the periodic report, as HTML and PDF."""
