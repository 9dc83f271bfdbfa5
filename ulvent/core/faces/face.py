"""What a face is to the rest of the core: metrics, shaping, outlines.

A face turns words into *clusters*: the units that are placed and never torn
apart (a base with its marks, a ligature). Everything is in font units until it
is set; `Metrics.cap_height` gives the scale, because a lettering's height is the
height of a flat capital.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass, field
from typing import NamedTuple

from ulvent.core.faces.outline import Outline


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


class Face(ABC):
    """One font file at one set of axis values."""

    name: str
    metrics: Metrics
    single_stroke: bool
    """Whether outlines are strokes to be followed by a tool, not areas."""

    @abstractmethod
    def shape(self, text: str) -> ShapedText:
        """Shape `text` with kerning and ligatures; mixed directions follow UAX 9."""

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
