"""Every mutation goes through here: who, what, before and after; undo and redo; revisions."""
