"""The desk: figures over several projects."""
