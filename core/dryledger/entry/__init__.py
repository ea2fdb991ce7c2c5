"""What people type into cells, read or refused in words. One grammar for numbers, dates and durations."""
