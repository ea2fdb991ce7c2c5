"""Other languages of the core: a file each, called by its code, whose SENTENCES has those of `dryledger.words` by their keys."""
