"""Bodies of requests that are files as they are."""

from __future__ import annotations

from typing import Any

A_FILE: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string"}}},
    }
}
"""What the API says of such a body."""
