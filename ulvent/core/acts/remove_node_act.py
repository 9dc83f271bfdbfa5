"""A point of a drawn guide taken out."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import DrawnAct, Index, node_at
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide
from ulvent.core.guides.nodes import without_node


class RemoveNode(DrawnAct):
    """A point of a drawn guide taken out."""

    act: Literal["remove-node"]
    index: Index

    def redrawn(self, guide: DrawnGuide) -> DrawnGuide:
        return without_node(guide, node_at(guide, self.index))
