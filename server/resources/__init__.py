"""The resources room: calendars and resources as their editors show them, and what is asked of each over time."""
