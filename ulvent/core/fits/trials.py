"""A lettering tried with other figures: each trial is set once and remembered."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import ROUNDING
from ulvent.core.faces import Face
from ulvent.core.recipe import Fit, Lettering
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.core.setting.rows.outcome import Fitted

Settings = tuple[Setting, ...]


class Tried:
    """One lettering on its guide, with other figures of its own."""

    def __init__(self, lettering: Lettering, fit: Fit, standing: Standing, face: Face) -> None:
        self.lettering, self.fit, self.standing, self.face = lettering, fit, standing, face
        self._last: tuple[Lettering, Settings] | None = None

    def by_the_face(self) -> Tried | None:
        """The same by the face's own spacing, which is quickly set: where to begin to look.

        Nothing where it is spaced so already.
        """
        if self.lettering.spacing == "font":
            return None
        return self.changed(self.lettering.model_copy(update={"spacing": "font"}))

    def changed(self, lettering: Lettering) -> Tried:
        """Another lettering in its place."""
        return Tried(lettering, self.fit, self.standing, self.face)

    def lines(self, lettering: Lettering) -> Settings:
        """The lines of the lettering as changed."""
        if self._last is None or self._last[0] != lettering:
            self._last = lettering, set_lettering(lettering, self.standing, self.face)
        return self._last[1]

    @property
    def last(self) -> Settings:
        """The lines that were tried last."""
        return self._last[1] if self._last else ()

    def room(self, lettering: Lettering, measure: Callable[[Settings], float]) -> float:
        """What `measure` finds of the lettering as changed; −∞ where it cannot stand at all."""
        try:
            return measure(self.lines(lettering))
        except CurveError:
            return -math.inf

    def come_to(self, lettering: Lettering, outcome: Fitted) -> Settings:
        """The lines of the solved lettering, with what came of its fit."""
        return tuple(replace(line, fitted=outcome) for line in self.lines(lettering))


def typed_figure(tried: Tried, field: str, present: float) -> float:
    """What a figure was before the fit; the present one where that is not known."""
    typed = tried.fit.typed.get(field)
    return present if typed is None else typed


def beyond(said: str, value: float, fit: Fit, unit: str = " mm") -> str:
    """That a solved figure, `said` in words, misses the limits; nothing where it does not."""
    for limit, sign, word in ((fit.least, -1.0, "less"), (fit.most, 1.0, "more")):
        if limit is not None and (value - limit) * sign > ROUNDING:
            by = abs(value - limit)
            return f"{said}, {by:.3g}{unit} {word} than {limit:g}{unit}"
    return ""
