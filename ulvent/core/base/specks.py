"""Figures that are too small to be reckoned with."""

from __future__ import annotations

from typing import Any

from ulvent.core.base.tolerances import NIL


def without_specks(value: Any) -> Any:
    """Decoded JSON with 0 for figures that are so small that their squares are no numbers."""
    if isinstance(value, dict):
        return {name: without_specks(one) for name, one in value.items()}
    if isinstance(value, list):
        return [without_specks(one) for one in value]
    return 0.0 if isinstance(value, float) and abs(value) < NIL else value
