"""New words on a guide: where they stand, which way they read, and how large they are."""

from __future__ import annotations

from typing import Any

import numpy as np

from ulvent.core.acts.act import free_id, guide_of
from ulvent.core.base.arrays import extent
from ulvent.core.base.errors import CurveError, FaceError, PieceError
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.places import place_share
from ulvent.core.guides.shared_lines import two_digits
from ulvent.core.layout import FaceNamed, standing_of
from ulvent.core.recipe import Lettering, Piece, parsed_lettering
from ulvent.core.recipe.first import FIRST_WORDS, USUAL_CHOICES
from ulvent.core.setting import set_lettering

_ON_CLOSED, _ON_OPEN = 0.3, 0.6
"""The share of a guide that its first words take up."""
_OF_EXTENT = 0.14
"""The most that letters are high, of the shorter side of a closed guide, or the longer one of
an open one."""
_OF_BEND = 0.5
"""The most that letters are high on an open guide, of the radius of its tightest bend."""
_SAMPLES = 200
_CLOSED_PLACES, _OPEN_PLACES = ("top", "bottom", "right", "left"), ("middle", "start", "end")


def first_words(
    piece: Piece, guide_id: str, choices: dict[str, Any], faces: FaceNamed, text: str = ""
) -> Lettering:
    """New words: in the middle of an open guide, at the top of a closed one, or where there is
    room beside others; upright, and as high as suits the guide.

    Raises
    ------
    PieceError
        Naming what is wrong with the choices.
    """
    guide = guide_of(piece, guide_id)
    curve = guide_curves(piece.guides, (guide.id,))[guide.id]
    places = _CLOSED_PLACES if curve.closed else _OPEN_PLACES
    others = [one for one in piece.letterings if one.guide == guide.id]
    taken = {one.at_in for one in others}
    place = next((one for one in places if one not in taken), places[0])
    lettering = parsed_lettering(
        {
            **USUAL_CHOICES,
            **choices,
            "id": free_id("lettering", piece.letterings),
            "guide": guide.id,
            "text": text or FIRST_WORDS,
            "at_in": place,
            "align": {"start": "start", "end": "end"}.get(place, "centre"),
            "reading": _upright(curve, place),
        }
    )
    others_heights = [one.height for one in others]
    height = others_heights[-1] if others_heights else _height(lettering, guide, curve, faces)
    return lettering.model_copy(update={"height": height})


def _upright(curve: Curve, place: str) -> str:
    """The way of reading in which letters at a place stand on their feet."""
    station = place_share(curve, place) * curve.length
    x, _ = curve.frames([station]).tangents[0]
    return "along" if x >= -NIL else "against"


def _height(lettering: Lettering, guide: Any, curve: Curve, faces: FaceNamed) -> float:
    share = _ON_CLOSED if curve.closed else _ON_OPEN
    most = _highest(curve)
    try:
        (line, *_) = set_lettering(lettering, standing_of(guide, curve), faces(lettering.face))
    except (CurveError, PieceError, FaceError):
        return two_digits(most)
    as_long = line.length * curve.length / max(line.baseline.length, NIL)
    if as_long <= NIL:
        return two_digits(most)
    return two_digits(min(lettering.height * share * curve.length / as_long, most))


def _highest(curve: Curve) -> float:
    """The most that letters are high, whatever they say, mm."""
    narrow, wide = sorted(extent(curve_bounds(curve)))
    if curve.encloses:
        return _OF_EXTENT * narrow
    bends = np.abs(curve.frames(np.linspace(0.0, curve.length, _SAMPLES)).curvatures)
    radius = 1.0 / max(float(bends.max()), NIL)
    # A tight bend somewhere is no reason for letters that cannot be read.
    return max(_OF_EXTENT * narrow, min(_OF_EXTENT * wide, _OF_BEND * radius))
