"""The options room: ways to win back time or money on top of the present plan, proposals, levelling, and adopting one.

What is done in an option is no step of the journal and counts no revision of the project: it touches nothing outside itself.
"""
