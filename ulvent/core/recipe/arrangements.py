"""How the words of a lettering stand, with what each way begins with."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, get_args

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe.dial import Dial, Numbers, Phrase, Tick, Ticks
from ulvent.core.recipe.lettering import Fill, Laps, Lettering, Repeat
from ulvent.core.recipe.mark import Mark

LINE_TO_LINE = 1.5
"""From line to line, in letters' heights, where no pitch is given. Common practice, no source."""


def usual_pitch(height: float) -> float:
    """From line to line, mm, where no pitch is given, for letters of a height, mm."""
    return round(LINE_TO_LINE * height, 1)


_NONE: dict[str, Any] = {"repeat": None, "laps": None, "dial": None, "fill": None, "fit": None}
_UNCHANGING: dict[str, Any] = {"end_height": None, "with_guide": False}
"""Letters do not grow where words stand more than once."""
_AT_THE_START: dict[str, Any] = {"at": 0.0, "at_in": "start"}
_TWELVE = 12


@dataclass(frozen=True)
class Arrangement:
    """A way in which words stand, as a person chooses it.

    picture
        path data in a box of 44 × 32, y down
    hint
        what it does, in words
    first
        the fields of a lettering that make it so
    """

    name: str
    label: str
    hint: str
    picture: str
    first: Callable[[Lettering], dict[str, Any]]


_ROUND = "M22 4a12 12 0 1 0 .01 0z"
_ALL = (
    Arrangement(
        "once", "once", "the words as they are, one time",
        "M5 25C13 7 31 7 39 25M14 12l-2-4M22 9V4M30 12l2-4", lambda _: {},
    ),
    Arrangement(
        "repeat", "repeated", "the words again and again along the guide, at equal distances",
        _ROUND + "M22 4V0M32 9l3-3M34 16h4M32 23l3 3M12 9l-3-3M10 16h-4M12 23l-3 3",
        lambda _: {"repeat": Repeat(separator=Mark(kind="leaf"))},
    ),
    Arrangement(
        "laps", "ring after ring", "long words go on round a further ring where one is full",
        "M22 2a14 14 0 1 0 .01 0zM22 7a9 9 0 1 0 .01 0zM22 12a4 4 0 1 0 .01 0z",
        lambda lettering: {"laps": Laps(pitch=usual_pitch(lettering.height))},
    ),
    Arrangement(
        "phrase", "letter by letter", "each letter of the words at a place of its own",
        "M4 24H40M8 24v-9M15 24v-9M22 24v-9M29 24v-9M36 24v-9",
        lambda _: {"dial": Dial(labels=Phrase(kind="phrase"))},
    ),
    Arrangement(
        "dial", "numbers, labels", "a scale or dial: figures, names or other labels, with ticks",
        _ROUND + "M22 4v4M34 16h-4M22 28v-4M10 16h4M22 16l5-5",
        lambda _: {
            "dial": Dial(labels=Numbers(kind="figures", first=1, step=1, last=_TWELVE))
        },
    ),
    Arrangement(
        "fill", "fill the shape", "the inside of a closed guide filled with words",
        _ROUND + "M16 9H28M12 14H32M12 19H32M16 24H28", lambda _: {"fill": Fill(margin=3.0)},
    ),
)  # fmt: skip

ARRANGEMENTS: dict[str, Arrangement] = {one.name: one for one in _ALL}
"""The ways in which words stand, in the order in which they are offered."""


def arrangement_of(lettering: Lettering) -> str:
    """How the words of a lettering stand."""
    if lettering.dial is not None and lettering.dial.labels.kind == "phrase":
        return "phrase"
    return next((way for way in ARRANGEMENTS if getattr(lettering, way, None) is not None), "once")


def arranged(lettering: Lettering, way: str, closed: bool) -> Lettering:
    """The lettering with its words standing another way, on a guide that is closed or open.

    On an open guide labels go from its start to its end.
    """
    if way == arrangement_of(lettering):
        return lettering
    growth = {} if way == "once" else _UNCHANGING
    place = _AT_THE_START if way in ("dial", "phrase") and not closed else {}
    return lettering.model_copy(update=_NONE | growth | place | ARRANGEMENTS[way].first(lettering))


# ------------------------------------------------------------------------ dials

COUNTED = get_args(Numbers.model_fields["kind"].annotation)


def relabelled(lettering: Lettering, kind: str) -> Lettering:
    """A dial with another sequence of labels, its guide divided into as many parts.

    Raises
    ------
    PieceError
        When the lettering is no dial.
    """
    dial = _dial(lettering)
    if dial.labels.kind == kind:
        return lettering
    labels: dict[str, Any] = {"kind": kind}
    if kind in COUNTED:
        labels |= {"first": 1, "step": 1, "last": dial.divisions or _TWELVE}
    made = Dial.model_validate(
        dial.model_dump() | {"labels": labels, "places": (), "divisions": None}
    )
    return lettering.model_copy(update={"dial": made})


PLACINGS: dict[str, str] = {
    "labels": "as many as it takes",
    "parts": "by number",
    "pitch": "by distance",
    "corners": "the guide’s corners",
    "points": "the guide’s points",
}
"""The ways in which a dial's places are said, each as a person chooses it."""


def placing_of(dial: Dial) -> str:
    """How a dial's places are said; those that are listed one by one are `listed`."""
    if dial.places:
        return "listed"
    if dial.divisions is not None:
        return "parts"
    return "pitch" if dial.pitch is not None else dial.on or "labels"


def placed_by(lettering: Lettering, way: str, count: int, length: float, closed: bool) -> Lettering:
    """A dial with its places said another way, for as many labels as before.

    Parameters
    ----------
    count
        how many labels there are
    length, closed
        of the guide, mm

    Raises
    ------
    PieceError
        When the lettering is no dial.
    """
    dial = _dial(lettering)
    parts = max(count if closed else count - 1, 1)
    changes: dict[str, Any] = {"divisions": None, "places": (), "pitch": None, "on": None}
    if way == "parts":
        changes["divisions"] = parts
    elif way == "pitch":
        changes["pitch"] = math.floor(length / parts * 100.0) / 100.0
    elif way != "labels":
        changes["on"] = way
    return lettering.model_copy(update={"dial": dial.model_copy(update=changes)})


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
