"""The ground that rooms stand on: the rows of a book, loading and writing them, what was computed of it, and who may see it."""
