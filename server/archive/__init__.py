"""A project as one file with everything that was sealed in it, and such a file brought in with every page as it was closed."""
