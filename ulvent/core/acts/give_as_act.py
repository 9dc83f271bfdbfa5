"""The size of a guide given by other figures; the line stays what it is."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import GuideAct
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.sizes import given_as
from ulvent.core.recipe import Piece


class GiveAs(GuideAct):
    """The size of a guide given by other figures; the line stays what it is."""

    act: Literal["give-as"]
    figures: Annotated[tuple[str, ...], Field(max_length=4)]

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        return given_as(guide, self.figures)
