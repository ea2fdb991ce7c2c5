"""How the application is served: read by gunicorn, which starts the processes that answer. All of them share the one database.

Each process remembers what it computed by the project's revision, which it reads anew for every request: none shows what is old.
"""

worker_class = "server.site.worker.WholeRequests"
threads = 8
timeout = 120
"""Seconds after which a process that gives no sign of life is replaced; a long answer is no such thing."""
control_socket_disable = True
loglevel = "warning"
