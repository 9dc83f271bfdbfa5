"""Processes that end with the one that began them."""

from __future__ import annotations

import ctypes
from signal import Signals

_PR_SET_PDEATHSIG = 1
"""Of prctl(2)."""


def end_with_parent(sign: Signals) -> None:
    """In a child: have the kernel send it a signal when its parent dies.

    One call and no locks: it can be made between fork and exec.
    """
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, sign)
