"""Tests. No property test depends on how fast the machine is.

`ULVENT_EXAMPLES` says how many examples each tries that names no number of its own.
"""

import os

from hypothesis import settings

EXAMPLES = int(os.environ.get("ULVENT_EXAMPLES", "24"))

settings.register_profile("ulvent", deadline=None, max_examples=EXAMPLES)
settings.load_profile("ulvent")
