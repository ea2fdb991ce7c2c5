"""The book: everything of one project as frozen records, what must hold in it, and how its single values are read."""
