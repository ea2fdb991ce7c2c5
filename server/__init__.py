"""Floor 2 of Dry Ledger: Django keeps, guards and serves. One app a room; formulas live in the core."""
