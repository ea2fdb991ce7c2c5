"""Books in from the open format."""
