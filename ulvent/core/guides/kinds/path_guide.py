"""A guide given as geometry."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from ulvent.core.base.fields import PathData, Text
from ulvent.core.curves import Curve
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind


class PathGuide(GuideRecipe):
    """A guide given as geometry: SVG path data of one line, mm, y up.

    source
        where it was taken from
    """

    keeps_scale: ClassVar[bool] = True

    kind: Literal["path"]
    d: PathData
    source: Annotated[Text, Field(max_length=200)] = ""


def _line(guide: PathGuide, _: tuple[Curve, ...]) -> Curve:
    # Imported when it is needed: reading path data is not for every start of the command line.
    from ulvent.core.guides.pathdata import curve_from_path_data

    return curve_from_path_data(guide.d)


KIND = GuideKind(
    recipe=PathGuide,
    line=_line,
    title="line from a file",
    words=lambda guide: f"from {guide.source}" if guide.source else "path",
    rank=160,
    blame="d",
)
