"""The browser that tests, pictures and measurements are made with."""

CHROMIUM = "/usr/bin/chromium-headless-shell"
"""The browser without a window of its own: a quarter quicker than the one that draws one unseen."""
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
