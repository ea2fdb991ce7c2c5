"""Ways to win back time: levelling so far."""
