"""How the words of a lettering stand, with what each way begins with."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, get_args

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe.lettering import (
    Dial,
    Fill,
    Laps,
    Lettering,
    Mark,
    Numbers,
    Repeat,
    Tick,
    Ticks,
)

LINE_TO_LINE = 1.5
"""From line to line, in letters' heights, where no pitch is given. Common practice, no source."""


def usual_pitch(height: float) -> float:
    """From line to line, mm, where no pitch is given, for letters of a height, mm."""
    return round(LINE_TO_LINE * height, 1)


_NONE: dict[str, Any] = {"repeat": None, "laps": None, "dial": None, "fill": None, "fit": None}
_UNCHANGING: dict[str, Any] = {"end_height": None, "with_guide": False}
"""Letters do not grow where words stand more than once."""

_FIRST: dict[str, Callable[[Lettering], dict[str, Any]]] = {
    "once": lambda _: {},
    "repeat": lambda _: {"repeat": Repeat(separator=Mark(kind="leaf"))},
    "laps": lambda lettering: {"laps": Laps(pitch=usual_pitch(lettering.height))},
    "dial": lambda _: {
        "dial": Dial(labels=Numbers(kind="figures", first=1, step=1, last=12), divisions=12)
    },
    "fill": lambda _: {"fill": Fill(margin=3.0)},
}

ARRANGEMENTS: dict[str, str] = {
    "once": "once",
    "repeat": "again",
    "laps": "in laps",
    "dial": "as dial",
    "fill": "filling",
}
"""The ways in which words stand, each as a person chooses it."""


def arrangement_of(lettering: Lettering) -> str:
    """How the words of a lettering stand."""
    return next((way for way in _FIRST if getattr(lettering, way, None) is not None), "once")


def arranged(lettering: Lettering, way: str) -> Lettering:
    """The lettering with its words standing another way."""
    if way == arrangement_of(lettering):
        return lettering
    growth = {} if way == "once" else _UNCHANGING
    return lettering.model_copy(update=_NONE | growth | _FIRST[way](lettering))


# ------------------------------------------------------------------------ dials

COUNTED = get_args(Numbers.model_fields["kind"].annotation)
_OWN_NUMBER = {"compass": 8, "months": 12}
_TWELVE = 12


def relabelled(lettering: Lettering, kind: str) -> Lettering:
    """A dial with another sequence of labels, its guide divided as that asks.

    Raises
    ------
    PieceError
        When the lettering is no dial.
    """
    dial = _dial(lettering)
    if dial.labels.kind == kind:
        return lettering
    divisions = _OWN_NUMBER.get(kind) or dial.divisions or _TWELVE
    labels: dict[str, Any] = {"kind": kind}
    if kind in COUNTED:
        labels |= {"first": 1, "step": 1, "last": dial.divisions or _TWELVE}
    made = Dial.model_validate(
        dial.model_dump() | {"labels": labels, "places": (), "divisions": divisions}
    )
    return lettering.model_copy(update={"dial": made})


def with_ticks(lettering: Lettering, on: bool) -> Lettering:
    """A dial with ticks in proportion to its labels, or without.

    Raises
    ------
    PieceError
        When the lettering is no dial.
    """
    length = round(0.5 * lettering.height, 1)
    ticks = Ticks(major=Tick(length=length), minor=Tick(length=length / 2.0), parts=5)
    dial = _dial(lettering).model_copy(update={"ticks": ticks if on else None})
    return lettering.model_copy(update={"dial": dial})


def _dial(lettering: Lettering) -> Dial:
    if lettering.dial is None:
        raise wrong_field("dial", "is missing: this lettering is no dial")
    return lettering.dial
