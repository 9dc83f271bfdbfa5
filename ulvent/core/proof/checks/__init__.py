"""Checks of the proof, one a module.

A new check is a new module here, with its `Check`.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.core.proof.check import Check

CHECKS: dict[str, Check] = {check.kind: check for check in found_records(__name__, Check)}
"""All checks by the kind of their findings, in the order in which these are listed."""
