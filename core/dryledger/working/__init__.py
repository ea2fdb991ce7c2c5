"""Where a figure comes from: its formula, the numbers in it and the rows behind them."""
