"""What a face is to the rest of the core: metrics, shaping, outlines.

A face turns words into *clusters*: the units that are placed and never torn
apart (a base with its marks, a ligature). Everything is in font units until it
is set; `Metrics.cap_height` gives the scale, because a lettering's height is the
height of a flat capital.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ulvent.core.base.remembered import remembered
from ulvent.core.outlines import Outline


@dataclass(frozen=True)
class Metrics:
    """Vertical measures of a face, font units, and where each was found.

    `descender` is negative. `sources` names, for every measure, the table field
    it came from or the fallback that was used, in words for a person.
    """

    units_per_em: float
    cap_height: float
    x_height: float
    ascender: float
    descender: float
    sources: dict[str, str] = field(default_factory=dict, compare=False)


class PlacedGlyph(NamedTuple):
    """A glyph and where it stands from its cluster's start, font units."""

    glyph: int
    x: float
    y: float


class Cluster(NamedTuple):
    """One unit of lettering, from shaping.

    text
        the characters it stands for
    place
        where they start in the words, counted in characters
    advance
        how far it moves the next one along, font units
    """

    text: str
    place: int
    glyphs: tuple[PlacedGlyph, ...]
    advance: float


@dataclass(frozen=True)
class MissingCharacter:
    """A character that the face has no shape for, and its place in the words."""

    character: str
    index: int

    def __str__(self) -> str:
        return f"“{self.character}” (U+{ord(self.character[0]):04X}) at place {self.index + 1}"


@dataclass(frozen=True)
class ShapedText:
    """Clusters in the order in which they stand, left to right along the reading."""

    clusters: tuple[Cluster, ...]
    missing: tuple[MissingCharacter, ...]


@dataclass(frozen=True)
class Axis:
    """An axis of a variable face, and the values it takes."""

    tag: str
    name: str
    least: float
    usual: float
    most: float


@dataclass(frozen=True)
class FeatureChoice:
    """An OpenType feature that a maker can choose; `usual` says whether it is on by itself."""

    tag: str
    name: str
    usual: bool = False


class Face(ABC):
    """One font file at one set of axis values."""

    name: str
    metrics: Metrics
    single_stroke: bool
    """Whether outlines are strokes to be followed by a tool, not areas."""
    slant: float = 0.0
    """Degrees by which upright strokes lean, heads forward."""
    stands_for: str = ""
    """Of a face that stands in for one that is not here: the name of that one."""
    axes: tuple[Axis, ...] = ()
    features: tuple[FeatureChoice, ...] = ()

    @property
    def key(self) -> str:
        """What tells this face, at these axis values and in this style, from any other."""
        return f"{self.name}@{id(self)}"

    def varied(self, axes: tuple[tuple[str, float], ...]) -> Face:
        """The face at other axis values; axes that it has not are left out.

        Raises
        ------
        FaceError
            When a value lies outside its axis.
        """
        return self

    @cached_property
    def joined(self) -> bool:
        """Whether small letters run into each other, as in a script: most of the usual pairs."""
        pairs = [self.shape(text) for text in ("nn", "mu", "ei", "an", "in", "le", "ai")]
        touching = [
            not pair.missing and len(pair.clusters) == 2 and self.touching(*pair.clusters)
            for pair in pairs
        ]
        return sum(touching) > len(touching) / 2

    def touching(self, one: Cluster, two: Cluster) -> bool:
        """Whether two neighbours overlap where their designer put them."""
        return _touching(self, one.glyphs, one.advance, two.glyphs)

    @abstractmethod
    def shape(self, text: str, features: tuple[tuple[str, int], ...] = ()) -> ShapedText:
        """Shape `text` with kerning and ligatures; mixed directions follow UAX 9.

        `features` are pairs of an OpenType tag and a value, as ``("smcp", 1)``.
        """

    @abstractmethod
    def glyph_outline(self, glyph: int) -> Outline:
        """The outline of one glyph, font units, y up."""

    def cluster_outline(self, glyphs: tuple[PlacedGlyph, ...]) -> Outline:
        """The outline of a cluster from its start on the baseline, font units, y up."""
        if len(glyphs) == 1 and glyphs[0].x == glyphs[0].y == 0.0:
            return self.glyph_outline(glyphs[0].glyph)
        return Outline.joined(
            self.glyph_outline(placed.glyph).moved(placed.x, placed.y) for placed in glyphs
        )


_ROWS = 48


@remembered(8192)
def _touching(
    face: Face, one: tuple[PlacedGlyph, ...], advance: float, two: tuple[PlacedGlyph, ...]
) -> bool:
    """Whether in some row the ink of `one` reaches as far as that of `two` begins."""
    first, second = face.cluster_outline(one), face.cluster_outline(two)
    if not first or not second:
        return False
    low = max(first.bounds()[1], second.bounds()[1])
    high = min(first.bounds()[3], second.bounds()[3])
    if high <= low:
        return False
    rights, lefts = np.full(_ROWS, -np.inf), np.full(_ROWS, np.inf)
    for outline, edges, better in ((first, rights, np.maximum), (second, lefts, np.minimum)):
        for points, closed in outline.polylines:
            ends = np.roll(points, -1, axis=0) if closed else points[1:]
            # Fine steps along every edge: which row each lies in, and how far it reaches.
            shares = np.linspace(0.0, 1.0, _ROWS)[:, None]
            starts = points if closed else points[:-1]
            walked = starts[:, None, :] + shares * (ends - starts)[:, None, :]
            x, y = walked.reshape(-1, 2).T
            inside = (y >= low) & (y <= high)
            rows = np.minimum(((y - low) / (high - low) * _ROWS).astype(int), _ROWS - 1)
            better.at(edges, rows[inside], x[inside])
    return bool((rights >= lefts + advance).any())
