"""The marks room: the rules that give marks, what they catch, trying and saving them, and the organisation's sets of them."""
