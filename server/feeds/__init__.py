"""Feeds: timesheets and costs from files and addresses, their mapping, the tray of rows that wait, and posting them."""
