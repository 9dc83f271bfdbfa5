"""The inside of a guide filled with words: level lines, or laps along its edge."""

from __future__ import annotations

import math
from dataclasses import replace

from ulvent.core.base.arrays import Millimetres
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Line
from ulvent.core.recipe import MOST_LETTERS, Fill, Laps, Lettering
from ulvent.core.recipe.arrangements import LINE_TO_LINE
from ulvent.core.setting.letters.dials import outside
from ulvent.core.setting.letters.words import scale_of, words_of
from ulvent.core.setting.lines.laps import letters_fitting, set_laps
from ulvent.core.setting.lines.levels import level_stretches
from ulvent.core.setting.lines.one_line import Given, set_line
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing

_MOST_OPENED = 0.4
"""A filled line's gaps are opened by at most so many letters' heights."""
_PITCH = 1.02
"""From tails to heads of the next line, in what both reach."""


def set_filled(lettering: Lettering, fill: Fill, given: Given) -> list[Setting]:
    """The words over all stretches that the inside of the guide has room for."""
    face, guide = given.face, given.standing.guide
    if not guide.encloses:
        raise wrong_field("fill", "needs a closed guide: an open one has no inside")
    scale = scale_of(lettering, face)
    # Tails of one line and heads of the next do not meet.
    clear = _PITCH * scale * (face.metrics.ascender - face.metrics.descender)
    pitch = fill.pitch or max(clear, LINE_TO_LINE * lettering.height)
    if fill.way == "around":
        heads_out = outside(guide) * (1.0 if lettering.reading == "along" else -1.0) > 0.0
        reach = face.metrics.ascender if heads_out else face.metrics.descender
        plain = lettering.model_copy(
            update={"touch": "baseline", "standoff": -reach * scale - (
                fill.margin if heads_out else -fill.margin
            ), "text": lettering.text.replace("\n", " ")}
        )  # fmt: skip
        return set_laps(plain, Laps(pitch=pitch), given, 0, 0)
    return _FilledLines(lettering, fill, pitch, given).settings()


class _FilledLines:
    """Words going from stretch to stretch of a shape, line by line."""

    def __init__(self, lettering: Lettering, fill: Fill, pitch: float, given: Given) -> None:
        face, guide = given.face, given.standing.guide
        scale = scale_of(lettering, face)
        reach = (scale * face.metrics.descender, scale * face.metrics.ascender)
        self._stretches = level_stretches(guide, fill.margin, pitch, reach, fill.angle)
        self._plain = lettering.model_copy(
            update={"touch": "baseline", "standoff": 0.0, "at": 0.0, "at_in": "mm",
                    "reading": "along"}
        )  # fmt: skip
        self._lettering, self._fill, self._given = lettering, fill, given
        self._found: list[Setting] = []

    def settings(self) -> list[Setting]:
        if not self._stretches:
            raise wrong_field("fill.margin", "leaves no room for a line: the shape is too small")
        waiting, at = self._stretches, 0
        for text in self._lettering.text.split("\n"):
            waiting = self._paragraph(self._again_and_again(text), at, waiting)
            at += len(text) + 1
        return self._found or [self._line("", 0, self._stretches[0])]

    def _again_and_again(self, text: str) -> str:
        """The words as often as the shape has room for, and once more."""
        if not self._fill.again or not text.strip():
            return text
        own = self._length(self._plain, text, 0)
        room = sum(stretch.length for stretch in self._stretches)
        copies = 1 + math.ceil(room / max(own, JOINT))
        return " ".join([text] * min(copies, 1 + MOST_LETTERS // len(text)))

    def _paragraph(self, text: str, offset: int, waiting: list[Line]) -> list[Line]:
        """Set one paragraph; the stretches that are left."""
        rest, at = text, offset
        while rest and waiting:
            stretch, *waiting = waiting
            count = letters_fitting(self._plain, self._given, rest, at, stretch.length)
            split = count < len(rest) and not rest[count - 1].isspace()
            if split and (self._fill.again or any(o.length > stretch.length for o in waiting)):
                continue  # Too short for the next word; a longer one comes, or none is needed.
            line = rest[:count]
            self._found.append(self._line(line, at, stretch, last=count == len(rest)))
            rest, at = rest[count:], at + count
        if rest and not self._fill.again and self._found:
            # What has no room stands on the last line, and overflows.
            last = self._found.pop()
            start = at - len(last.lettering.text)
            self._found.append(
                self._line(last.lettering.text + rest, start, self._stretches[-1], last=True)
            )
        return waiting

    def _line(self, text: str, at: int, stretch: Line, last: bool = False) -> Setting:
        shown = text.rstrip()
        line = self._plain.model_copy(update={"text": shown})
        if self._fill.even and not last:
            line = line.model_copy(update={"tracking": self._opened(line, shown, at, stretch)})
        place = {"start": 0.0, "centre": stretch.length / 2.0, "end": stretch.length}[line.align]
        if self._fill.even and not last:
            line, place = line.model_copy(update={"align": "start"}), 0.0
        line = line.model_copy(update={"at": place})
        given = replace(self._given, standing=Standing(stretch))
        return set_line(line, len(self._found), given, at)

    def _opened(self, line: Lettering, text: str, at: int, stretch: Line) -> float:
        """The tracking with which a line is as long as its stretch: length goes evenly with it."""
        own = self._length(line, text, at)
        wider = line.model_copy(update={"tracking": line.tracking + 1.0})
        gained = self._length(wider, text, at) - own
        if gained <= JOINT:
            return line.tracking
        return line.tracking + min((stretch.length - own) / gained, _MOST_OPENED * line.height)

    def _length(self, line: Lettering, text: str, at: int) -> Millimetres:
        return words_of(line, self._given.face, self._given.nudges, text, at).length
