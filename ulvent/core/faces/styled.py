"""A face as a lettering asks for it: narrowed, slanted, mirrored, with features and marks.

A style changes the letters themselves, so that everything that looks at letters, their
advances, their sides and their gaps, sees them as they will be cut. Slanting and
mirroring act on whole clusters, marks and their bases together.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ulvent.core.base.remembered import remembered
from ulvent.core.faces.face import Cluster, Face, PlacedGlyph, ShapedText
from ulvent.core.faces.marks import MarkShape, mark_outline
from ulvent.core.outlines import Outline


@dataclass(frozen=True)
class Style:
    """How letters differ from what their file holds.

    axes, features
        of a variable face, and of OpenType: pairs of tag and value
    width
        factor along the reading
    slant
        degrees, heads forward
    mirrored
        letters turned into their mirror image, and set in the opposite order
    marks
        shapes that stand among the letters; their clusters come from `StyledFace.mark`
    """

    axes: tuple[tuple[str, float], ...] = ()
    features: tuple[tuple[str, int], ...] = ()
    width: float = 1.0
    slant: float = 0.0
    mirrored: bool = False
    marks: tuple[MarkShape, ...] = ()


@remembered(256)
def styled(face: Face, style: Style) -> Face:
    """`face` in a style. The same face and style give the same object, whose outlines are kept.

    Raises
    ------
    FaceError
        When an axis value is not one that the face has.
    """
    varied = face.varied(style.axes) if style.axes else face
    plain = Style(axes=style.axes)
    return varied if style == plain else StyledFace(varied, style)


class StyledFace(Face):
    """See the module."""

    def __init__(self, face: Face, style: Style) -> None:
        self.base = face
        self.style = style
        self.name = face.name
        self.metrics = face.metrics
        self.single_stroke = face.single_stroke
        self.stands_for = face.stands_for
        lean = face.slant + style.slant
        self.slant = -lean if style.mirrored else lean
        self.features = face.features
        self.axes = face.axes
        shear = math.tan(math.radians(style.slant))
        flip = -1.0 if style.mirrored else 1.0
        self._linear = np.array([[flip * style.width, flip * style.width * shear], [0.0, 1.0]])
        self._plain = bool((self._linear == np.eye(2)).all())
        self._outlines: dict[int, Outline] = {}
        for index, mark in enumerate(style.marks):
            drawn = mark_outline(mark, face.metrics.cap_height, self._letter(mark))
            self._outlines[-1 - index] = drawn

    def _letter(self, mark: MarkShape) -> Outline:
        """The outline of a mark that is a letter of the face."""
        if mark.kind != "letter":
            return Outline.empty()
        clusters = self.base.shape(mark.letter).clusters
        at, parts = 0.0, []
        for cluster in clusters:
            parts.append(self.base.cluster_outline(cluster.glyphs).moved(at, 0.0))
            at += cluster.advance
        return Outline.joined(parts)

    @cached_property
    def joined(self) -> bool:
        return self.base.joined

    @property
    def key(self) -> str:
        style = self.style
        return f"{self.base.key}|{style.width:g}|{style.slant:g}|{style.mirrored}|" + str(
            hash((style.features, style.marks))
        )

    def varied(self, axes: tuple[tuple[str, float], ...]) -> Face:
        return StyledFace(self.base.varied(axes), self.style)

    def shape(self, text: str, features: tuple[tuple[str, int], ...] = ()) -> ShapedText:
        shaped = self.base.shape(text, self.style.features + features)
        if self._plain:
            return shaped
        clusters = tuple(self._changed(cluster) for cluster in shaped.clusters)
        if self.style.mirrored:
            clusters = clusters[::-1]
        return ShapedText(clusters, shaped.missing)

    def _changed(self, cluster: Cluster) -> Cluster:
        """A cluster whose glyphs stand where the style's letters have them."""
        advance = cluster.advance * self.style.width
        first = advance if self.style.mirrored else 0.0
        (xx, xy), _ = self._linear.tolist()
        glyphs = tuple(
            PlacedGlyph(glyph, first + xx * x + xy * y, y) for glyph, x, y in cluster.glyphs
        )
        return cluster._replace(glyphs=glyphs, advance=advance)

    def mark(self, index: int) -> Cluster:
        """The cluster of the mark `index` of the style; it stands for no character."""
        outline = self._outlines[-1 - index]
        advance = outline.bounds()[2] if outline else 0.0
        return Cluster("", -1, (PlacedGlyph(-1 - index, 0.0, 0.0),), advance)

    def glyph_outline(self, glyph: int) -> Outline:
        if glyph not in self._outlines:
            outline = self.base.glyph_outline(glyph)
            points = outline.points @ self._linear.T
            self._outlines[glyph] = Outline(outline.operations, points)
        return self._outlines[glyph]
