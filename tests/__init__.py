"""Tests. No property test depends on how fast the machine is."""

from hypothesis import settings

settings.register_profile("ulvent", deadline=None)
settings.load_profile("ulvent")
