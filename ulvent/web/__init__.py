"""The web application: routes, the live channel, and the built front end."""

WORKERS_HAVE = ["ulvent.web.app", "ulvent.bench.preloaded"]
"""Modules that the workers of the crew have from the start."""
