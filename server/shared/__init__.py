"""What several rooms need: problem documents and plain data for answers."""
