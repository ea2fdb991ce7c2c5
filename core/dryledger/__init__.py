"""Floor 1 of Dry Ledger: the pure computation.

Plain values in, plain values out. No web framework, no clock, no files, no settings live here.
The one door is `dryledger.compute.compute(book, period)`; `dryledger.exchange.book_json` reads and writes books.
"""
