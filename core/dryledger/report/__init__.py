"""What the figures say of a page, for people who were not there."""
