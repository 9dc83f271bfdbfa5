"""A deleted guide, of which the line was kept, brought back."""

from __future__ import annotations

from typing import Literal

from ulvent.core.acts.act import GuideAct
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.recipe import Piece


class RestoreGuide(GuideAct):
    """A deleted guide, of which the line was kept, brought back."""

    act: Literal["restore-guide"]

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        return guide.model_copy(update={"removed": False, "hidden": False})
