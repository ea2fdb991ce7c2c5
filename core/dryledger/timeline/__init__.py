"""Progress lines: one point for each activity at an instant."""
