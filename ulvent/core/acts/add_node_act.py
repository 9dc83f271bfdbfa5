"""A point added to a drawn guide, where its line is nearest."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import ActPoint, DrawnAct
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide
from ulvent.core.guides.nodes import with_node_added


class AddNode(DrawnAct):
    """A point added to a drawn guide, where its line is nearest."""

    act: Literal["add-node"]
    near: ActPoint

    def redrawn(self, guide: DrawnGuide) -> DrawnGuide:
        return with_node_added(guide, self.near)[0]
