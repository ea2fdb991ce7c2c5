"""The activity network as arrays of whole numbers, and the passes over it, plain or compiled. The schedule runs it."""
