"""A sine wave."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Degrees, Size
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve, SineWave
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, Extent, GuideKind, Sizes, Start, beside
from ulvent.core.guides.shared_lines import two_digits


class WaveGuide(GuideRecipe):
    """A sine wave; `height` from valley to crest. Half a wave is an arch."""

    kind: Literal["wave"]
    length: Size
    height: Size
    waves: Annotated[float, Field(gt=0.0, le=500.0, allow_inf_nan=False)] = 2.0
    phase: Degrees = 0.0


def _line(guide: WaveGuide, _: tuple[Curve, ...]) -> Curve:
    return SineWave(guide.length, guide.height / 2.0, guide.waves, guide.phase)


def _drawn(guide: WaveGuide) -> list[DrawnFigure]:
    begin, up = -guide.length * guide.waves / 2.0, guide.height / 2.0
    end = min(begin + guide.length, -begin)
    low = -1.35 * up
    return [
        DrawnFigure("length", "Length of a wave", "↔ ", guide.length, (begin, low), (end, low)),
        DrawnFigure("height", "Height, valley to crest", "↕ ", guide.height, (0.0, -up), (0.0, up)),
        beside("waves", "Number of waves", "n ", guide.waves, (-begin, low), ""),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    length, height = two_digits(0.3 * sizes.blank), two_digits(0.07 * sizes.blank)
    return {"length": length, "height": height, "waves": 3}


def _first_single(sizes: Sizes) -> dict[str, object]:
    length, height = two_digits(0.85 * sizes.blank), two_digits(0.14 * sizes.blank)
    return {"length": length, "height": height, "waves": 1}


KIND = GuideKind(
    recipe=WaveGuide,
    line=_line,
    title="wave",
    words=lambda guide: f"{shown(guide.waves)} waves of {shown(guide.length)} mm",
    rank=80,
    blame="length",
    inputs=(
        Figure("length", "Length of a wave"),
        Figure("height", "Height"),
        Figure("waves", "Number of waves", ""),
        Figure("phase", "Phase", "°"),
    ),
    starts=(
        Start(
            "wave",
            "M4 16c4.5-11 7.5-11 12 0s7.5 11 12 0s7.5-11 12 0",
            _first,
            70,
            "wave",
            usual=True,
        ),
        Start("arch and valley", "M5 18c6-13 11-13 17 0s11 11 17 -2", _first_single, 80, "arch"),
    ),
    sized_by=("length", "height"),
    drawn=_drawn,
    extent=Extent(
        "open",
        of=lambda guide: (guide.length, guide.height),
        to=lambda length, rise: {
            "length": length,
            "height": abs(rise) or two_digits(0.15 * length),
        },
    ),
)
