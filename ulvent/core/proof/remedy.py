"""A remedy: a change of fields that mends a finding."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict


class Remedy(BaseModel):
    """A change that mends a finding.

    label
        what it does, with its figure, in words
    of, owner, changes
        whose fields change, and to what
    """

    model_config = ConfigDict(frozen=True)

    label: str
    of: Literal["lettering", "guide", "piece"]
    owner: str
    changes: dict[str, Any]
