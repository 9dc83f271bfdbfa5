"""A drawn guide with its ends joined."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import DrawnAct
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide
from ulvent.core.guides.nodes import closed_up


class CloseUp(DrawnAct):
    """A drawn guide with its ends joined."""

    act: Literal["close"]

    def redrawn(self, guide: DrawnGuide) -> DrawnGuide:
        return closed_up(guide)
