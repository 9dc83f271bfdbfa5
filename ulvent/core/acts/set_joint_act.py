"""A point made corner, smooth or even; `free` lets the line find its own way there."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import DrawnAct, Index, node_at
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide, with_node
from ulvent.core.guides.nodes import with_joint


class SetJoint(DrawnAct):
    """A point made corner, smooth or even; `free` lets the line find its own way there."""

    act: Literal["set-joint"]
    index: Index
    joint: Literal["smooth", "even", "corner", "free"]

    def redrawn(self, guide: DrawnGuide) -> DrawnGuide:
        index = node_at(guide, self.index)
        if self.joint == "free":
            return with_node(guide, index, joint="smooth", before=None, after=None)
        return with_joint(guide, index, self.joint)
