"""Steps of preparing, one a module.

A new step is a new module here, with its recipe and its `Step`.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.core.steps.step import Step

STEPS: dict[str, Step] = {step.field: step for step in found_records(__name__, Step)}
"""All steps by the fields of their recipes, in the order in which they are taken."""

__all__ = ["STEPS", "Step"]
