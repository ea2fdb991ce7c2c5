"""What the pages say at a status date, and the dates and floats that follow."""
