"""The timeline of a page: its rows with their dates, progress lines, and the whole as a drawing on screen and paper."""
