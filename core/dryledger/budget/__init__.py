"""Money: what work costs, how it is spread over time, what was spent and what is left."""
