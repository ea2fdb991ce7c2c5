"""The buffers room: the critical chain of a page with its buffers, the promise, and its use page by page."""
