"""What in a book cannot be true, what needs an entry, and where the plan itself is weak."""
