"""Working time: instants, calendars and the axis that counts their working minutes. Everyone may use it."""
