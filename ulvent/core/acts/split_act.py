"""A drawn guide split at a point, or opened there when it is closed."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import (
    Done,
    GuideAct,
    Index,
    drawn,
    free_id,
    guide_of,
    node_at,
    with_guide,
)
from ulvent.core.guides.nodes import split_at
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class SplitAt(GuideAct):
    """A drawn guide split at a point, or opened there when it is closed."""

    act: Literal["split"]
    index: Index

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = drawn(guide_of(piece, self.guide))
        other = free_id(guide.id, piece.guides)
        parts = split_at(guide, node_at(guide, self.index), other)
        return Done(with_guide(piece, guide, *parts))
