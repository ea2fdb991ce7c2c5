"""Working calendars and their exceptions, as rows of a book."""
