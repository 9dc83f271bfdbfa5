"""A guide made larger or smaller as a whole, about its own centre."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import GuideAct
from ulvent.core.acts.sizing import MeasureOf, factor_to
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.kinds import AnyGuide, kind_of
from ulvent.core.guides.scaling import resized
from ulvent.core.recipe import Piece


class ResizeGuide(GuideAct):
    """A guide made larger or smaller as a whole.

    measure, to
        what of it is made how large: its width, height or length, mm; or so many % of what it is
    """

    act: Literal["resize-guide"]
    measure: MeasureOf | Literal["length"]
    to: Annotated[float, Field(gt=0.0, allow_inf_nan=False)]

    def changed(self, guide: AnyGuide, piece: Piece) -> AnyGuide:
        if not kind_of(guide).scales:
            raise wrong_field("guide", "follows the guides that it is made from: size those")
        curve = guide_curves(piece.guides, (guide.id,))[guide.id]
        sizes = {"length": curve.length}
        return resized(guide, factor_to(self.measure, self.to, curve_bounds(curve), sizes))
