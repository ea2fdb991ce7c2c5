"""The asking room: who is asked for progress, what they answer, and taking it onto the page."""
