"""Arrays as bytes, and back as they were: NumPy's own format (.npz), with nothing but numbers."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray


def packed(arrays: Sequence[NDArray[Any]]) -> bytes:
    """Arrays, in their order."""
    buffer = io.BytesIO()
    np.savez_compressed(buffer, *arrays)
    return buffer.getvalue()


def unpacked(data: bytes) -> list[NDArray[Any]]:
    """Arrays that were `packed`."""
    with np.load(io.BytesIO(data), allow_pickle=False) as found:
        return [found[f"arr_{number}"] for number in range(len(found.files))]
