"""The words in which a person chooses among the few values that fields of a recipe have.

Each list is held against the recipe when it is loaded: a value without words is an error then.
"""

from __future__ import annotations

from types import NoneType, UnionType
from typing import Any, Literal, Union, get_args, get_origin

from pydantic import BaseModel

from ulvent.core.base.inputs import Figure, Values
from ulvent.core.guides.drawn import JOINTS
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.recipe.arrangements import PLACINGS
from ulvent.core.recipe.dial import Names, Numbers, Ticks
from ulvent.core.recipe.fit import Fit, GivesWay
from ulvent.core.recipe.lettering import Fill, Laps, Lettering
from ulvent.core.recipe.mark import Mark
from ulvent.core.recipe.piece import Piece
from ulvent.core.recipe.tool_sheet import ToolSheet
from ulvent.core.stances import LABEL_STANCES, STANCES


def _values(model: type[BaseModel], field: str, words: dict[str, str]) -> Values:
    """Values of a field with their words, in the order of the words."""
    missing = _literals(model.model_fields[field].annotation) ^ words.keys()
    if missing:
        raise LookupError(f"{model.__name__}.{field}: words and values differ: {missing}")
    return tuple(words.items())


def _literals(annotation: Any) -> set[str]:
    if get_origin(annotation) is Literal:
        return set(get_args(annotation))
    if get_origin(annotation) in (Union, UnionType, tuple):
        parts = (part for part in get_args(annotation) if part not in (NoneType, Ellipsis))
        return set().union(*(_literals(part) for part in parts))
    return set()


CHOICES: dict[str, Values] = {
    "touch": _values(
        Lettering,
        "touch",
        {"ascender": "ascender", "capital": "capitals", "middle": "middle", "baseline": "baseline",
         "descender": "tails"},
    ),
    "spacing": _values(
        Lettering,
        "spacing",
        {"font": "the face’s", "even": "even", "same": "all the same", "overlap": "overlapping"},
    ),
    "align": _values(Lettering, "align", {"start": "start", "centre": "middle", "end": "end"}),
    "measured": _values(
        Lettering,
        "measured",
        {"capital": "a capital", "x-height": "a small x", "ascender": "descender to ascender",
         "type": "type size"},
    ),
    "at_in": _values(
        Lettering,
        "at_in",
        {"mm": "in mm", "share": "in %", "start": "from the start", "middle": "from the middle",
         "end": "from the end", "top": "from the top", "bottom": "from the bottom"},
    ),
    "stance": tuple((one.name, one.label) for one in STANCES.values()),
    "label_stance": tuple((one.name, one.label) for one in LABEL_STANCES.values()),
    "labels": (
        *_values(
            Numbers, "kind", {"figures": "1 2 3", "roman": "I II III", "letters": "A B C"}
        ),
        *_values(
            Names, "kind", {"compass": "compass points", "months": "months", "list": "listed words"}
        ),
    ),
    "places": tuple(PLACINGS.items()),
    "ticks": _values(
        Ticks, "side", {"inside": "inside", "outside": "outside", "both": "across"}
    ),
    "laps": _values(Laps, "way", {"inward": "inward", "outward": "outward"}),
    "fill": _values(Fill, "way", {"lines": "line by line", "around": "round and round"}),
    "mark": _values(
        Mark,
        "kind",
        {"dot": "dot", "ring": "ring", "diamond": "diamond", "star": "star", "leaf": "leaf",
         "letter": "a character", "outline": "from a file …"},
    ),
    "fit": _values(
        Fit,
        "kind",
        {"height": "as high as fits", "gap": "spread to fill", "taper": "tapered to the end",
         "guide": "the guide made to fit", "repeats": "as often as is nearest"},
    ),
    "fit_limits": _values(
        Fit,
        "kind",
        {"height": "The height", "gap": "What each gap gets", "taper": "The height at the end",
         "guide": "The figure", "repeats": "How often"},
    ),
    "within": _values(
        Fit,
        "within",
        {"blank": "inside the blank", "edges": "between the two edges",
         "turns": "off its other turns and lines"},
    ),
    "until": _values(
        Fit,
        "until",
        {"filled": "the words end at its end", "clear": "its turns are clear of each other"},
    ),
    "seam": _values(Fit, "seam", {"letter": "a letter gap", "word": "a word gap"}),
    "gives": _values(GivesWay, "figure", {"height": "the height", "width": "the width"}),
    "joint": JOINTS,
    "corners": _values(
        GuideRecipe,
        "corners",
        {"pass": "across", "keep-off": "beside them", "round": "rounded"},
    ),
    "output": _values(
        GuideRecipe, "output", {"cut": "is cut", "draw": "is drawn", "engrave": "is engraved"}
    ),
    "lengths": _values(
        Piece, "lengths", {"mm": "mm", "inch": "inches", "fraction": "fractions of an inch"}
    ),
    "use": _values(
        ToolSheet,
        "use",
        {"kept": "letters are kept", "removed": "letters are removed",
         "sunk": "letters are engraved", "lines": "only lines are drawn"},
    ),
}  # fmt: skip
"""Values of fields with their words, by what is chosen."""

NUDGES = (
    Figure("along", "Moved along"),
    Figure("across", "Moved up"),
    Figure("turn", "Turned", "°"),
    Figure("size", "Size", "%", 100.0),
    Figure("gap", "Gap opened by"),
)
"""What is done to letters by hand; see `Nudge`."""

LIMITS = (
    Figure("least_stroke", "Thinnest stroke"),
    Figure("least_gap", "Narrowest gap"),
    Figure("least_part", "Smallest part"),
    Figure("least_height", "Least height of capitals"),
    Figure("cutter", "Cutter diameter"),
)
"""The figures of a tool sheet; one of zero is not looked at."""
