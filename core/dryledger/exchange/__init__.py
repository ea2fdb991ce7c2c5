"""Books to and from the open format (JSON), and its schema. `book_json.read_book` is the door."""
