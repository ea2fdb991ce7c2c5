"""Status marks by plain rules."""
