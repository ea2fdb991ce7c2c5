"""Pages, statements, hours and costs: what is said on each status date."""
