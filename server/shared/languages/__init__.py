"""Other languages of the server: a file each, called by its code, whose SENTENCES has those of `server.shared.words` by their keys."""
