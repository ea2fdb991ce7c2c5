"""Changes of a plan as functions of the book: `apply.apply(book, verbs)` is the door. Nothing here keeps anything."""
