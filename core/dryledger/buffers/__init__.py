"""Critical chain: the chain, its feeding chains and buffers, and how they stand at a page."""
