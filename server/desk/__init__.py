"""The desk: all projects, and the frame that every screen of one stands in."""
