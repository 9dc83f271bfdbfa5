"""Single-stroke faces: letters made of lines that a tool follows once.

A stroke face is a table from characters to strokes. Accented letters that the
table lacks are composed from their base and a mark that it has; what cannot be
composed is reported as missing, never dropped.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.errors import FaceError
from ulvent.core.faces.bidi import visual_runs
from ulvent.core.faces.face import (
    Cluster,
    Face,
    Metrics,
    MissingCharacter,
    PlacedGlyph,
    ShapedText,
)
from ulvent.core.outlines import Outline

_MARK_GAP = 0.14
"""White between a letter and the mark composed above it, of the cap height."""

_MARKS_FROM = {
    "\u0300": "`",
    "\u0301": "'",
    "\u0302": "^",
    "\u0303": "~",
    "\u0308": ":",
    "\u030a": "o",
    "\u0307": ".",
    "\u0327": ",",
    "\u0304": "-",
}
"""The character whose strokes stand in for a combining mark."""

_SMALL = {"o": 0.45, "-": 0.6, ":": 0.8}
_BELOW = {"\u0327"}
_COMPOSABLE = range(0xC0, 0x180)
"""Latin-1 and Latin Extended-A: the accented letters that are composed."""


@dataclass(frozen=True)
class StrokeGlyph:
    """Strokes from the glyph's own origin on the baseline, and its advance; font units, y up."""

    outline: Outline
    advance: float

    @classmethod
    def of_lines(
        cls, strokes: Sequence[Sequence[tuple[float, float]]], advance: float
    ) -> StrokeGlyph:
        """From strokes that are straight from point to point."""
        return cls(_drawn(strokes), advance)


class StrokeFace(Face):
    """A face from a table of strokes."""

    single_stroke = True

    def __init__(self, name: str, glyphs: dict[str, StrokeGlyph], metrics: Metrics) -> None:
        if not glyphs:
            raise FaceError("the stroke face has no characters")
        self.name = name
        self.metrics = metrics
        self._outlines = {character: glyph.outline for character, glyph in glyphs.items()}
        self._advances = {character: glyph.advance for character, glyph in glyphs.items()}
        for code in _COMPOSABLE:
            self._compose(chr(code))
        self._characters = sorted(self._outlines)
        self._numbers = {character: index for index, character in enumerate(self._characters)}

    @property
    def characters(self) -> str:
        """All characters that have a shape, in the order of their glyph numbers."""
        return "".join(character for character in self._characters if len(character) == 1)

    def shape(self, text: str, features: tuple[tuple[str, int], ...] = ()) -> ShapedText:
        clusters: list[Cluster] = []
        missing: list[MissingCharacter] = []
        for run in visual_runs(text):
            letters = _letters(text, run.start, run.end)
            for index, letter in reversed(letters) if run.right_to_left else letters:
                advance = self._advances.get(letter, self.metrics.cap_height / 2.0)
                glyphs: tuple[PlacedGlyph, ...] = ()
                if letter in self._numbers:
                    glyphs = (PlacedGlyph(self._numbers[letter], 0.0, 0.0),)
                else:
                    missing.append(MissingCharacter(letter, index))
                clusters.append(Cluster(letter, index, glyphs, advance))
        missing.sort(key=lambda character: character.index)
        return ShapedText(tuple(clusters), tuple(missing))

    def glyph_outline(self, glyph: int) -> Outline:
        return self._outlines[self._characters[glyph]]

    def _compose(self, letter: str) -> None:
        """Add an accented letter, where its base and all its marks are there."""
        base, *marks = list(unicodedata.normalize("NFD", letter))
        if letter in self._outlines or not marks or base not in self._outlines:
            return
        if not all(_MARKS_FROM.get(mark) in self._outlines for mark in marks):
            return
        body = self._outlines[base]
        if base in "ij" and not _BELOW.issuperset(marks):
            body = _without_dot(body)
        gap = _MARK_GAP * self.metrics.cap_height
        x0, _, x1, _ = body.bounds()
        parts = [body]
        for mark in marks:
            source = _MARKS_FROM[mark]
            drawn = self._outlines[source]
            turned = drawn.points[:, ::-1] if source == ":" else drawn.points
            drawn = Outline(drawn.operations, turned * _SMALL.get(source, 1.0))
            _, low, _, high = Outline.joined(parts).bounds()
            left, bottom, right, top = drawn.bounds()
            lift = low - gap / 2.0 - top if mark in _BELOW else high + gap - bottom
            parts.append(drawn.moved((x0 + x1 - left - right) / 2.0, lift))
        self._outlines[letter] = Outline.joined(parts)
        self._advances[letter] = self._advances[base]


def _letters(text: str, start: int, end: int) -> list[tuple[int, str]]:
    """Base characters with the combining marks that follow them."""
    found: list[tuple[int, str]] = []
    for index in range(start, end):
        character = text[index]
        if found and unicodedata.combining(character):
            found[-1] = (found[-1][0], found[-1][1] + character)
        else:
            found.append((index, character))
    return [(index, unicodedata.normalize("NFC", part)) for index, part in found]


def _drawn(strokes: Sequence[Sequence[tuple[float, float]]]) -> Outline:
    kept = [stroke for stroke in strokes if len(stroke) > 1]
    if not kept:
        return Outline.empty()
    operations = "".join("M" + "L" * (len(stroke) - 1) for stroke in kept)
    return Outline(
        operations, np.array([point for stroke in kept for point in stroke], dtype=float)
    )


def _without_dot(letter: Outline) -> Outline:
    """The letter without its highest loose stroke."""
    strokes: list[tuple[str, list[Floats]]] = []
    for operation, points in letter.steps():
        if operation == "M":
            strokes.append(("", []))
        operations, parts = strokes[-1]
        strokes[-1] = (operations + operation, [*parts, points])
    drawn = [Outline(operations, np.concatenate(parts)) for operations, parts in strokes]
    highest = max(drawn, key=lambda stroke: float(stroke.points[:, 1].min()))
    return Outline.joined(stroke for stroke in drawn if stroke is not highest)
