"""The labels of a dial, and where they stand, from a pasted table."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import LetteringAct
from ulvent.core.acts.pasted_labels import pasted_labels
from ulvent.core.curves import Curve
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Lettering, Piece


class PasteLabels(LetteringAct):
    """The labels of a dial, and where they stand, from a pasted table."""

    act: Literal["paste-labels"]
    table: Annotated[str, Field(max_length=40_000)]

    def changed(
        self, lettering: Lettering, curve: Curve, piece: Piece, faces: FaceNamed
    ) -> Lettering:
        return pasted_labels(lettering, self.table)
