"""The budget by time, loads, and top-down estimates."""
