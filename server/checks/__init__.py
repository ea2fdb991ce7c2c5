"""The checks room: findings as a working list, answers to them, limits, and the quality of the plan."""
