"""Faces from TrueType and OpenType files, shaped by HarfBuzz.

HarfBuzz accepts broken files without a word, so every file is first opened with
fontTools, which reads the tables that a face cannot do without.
"""

from __future__ import annotations

import logging
from copy import copy
from functools import cached_property
from io import BytesIO

import uharfbuzz as harfbuzz
from fontTools.ttLib import TTFont

from ulvent.core.base.errors import FaceError
from ulvent.core.faces.bidi import Run, visual_runs
from ulvent.core.faces.face import (
    Axis,
    Cluster,
    Face,
    Metrics,
    MissingCharacter,
    PlacedGlyph,
    ShapedText,
)
from ulvent.core.faces.features import USUAL_FEATURES, feature_choices
from ulvent.core.outlines import Outline, OutlinePen
from ulvent.core.outlines.outline import without_overlaps

# fontTools logs remarks on old files that no maker can act on.
logging.getLogger("fontTools").setLevel(logging.CRITICAL)

_FEATURES: dict[str, int] = dict.fromkeys(USUAL_FEATURES, 1)
_NEEDED = ("head", "hhea", "hmtx", "maxp", "cmap")
_NOTDEF = 0
_FULL_NAME = 4
"""Of the name table (OpenType)."""
_MOST_SHAPED = 256
_CAP_SHARE, _X_SHARE = 0.7, 0.5


class OutlineFace(Face):
    """A face from the bytes of a TTF, OTF, WOFF or WOFF2 file."""

    single_stroke = False

    def __init__(self, data: bytes) -> None:
        self._table = table = _open(data)
        try:
            self._read(table, data)
        except FaceError:
            raise
        except Exception as error:
            # Tables that were not read on opening may be broken in any way.
            raise _unreadable(error) from error

    def _read(self, table: TTFont, data: bytes) -> None:
        self._file = harfbuzz.Face(_plain_bytes(table, data))
        # Asked of HarfBuzz: fontTools would read the names of all glyphs for it.
        if not self._file.unicodes:
            raise FaceError("the font file has no characters")
        self.axes = _axes(table)
        self.slant = _slant(table)
        self.features = feature_choices(self._file)
        self._set_values(())

    def _set_values(self, axes: tuple[tuple[str, float], ...]) -> None:
        """Start afresh at axis values: all that depends on them."""
        em = self._table["head"].unitsPerEm
        self._values = axes
        self._font = harfbuzz.Font(self._file)
        self._font.scale = (em, em)
        if axes:
            self._font.set_variations(dict(axes))
        self._outlines: dict[int, Outline] = {}
        self._shaped: dict[tuple[str, tuple[tuple[str, int], ...]], ShapedText] = {}
        self._at_origin: dict[int, tuple[PlacedGlyph, ...]] = {}
        self.metrics = self._measured(self._table)

    @cached_property
    def name(self) -> str:  # type: ignore[override]
        """What the file says that it is called."""
        return _debug_name(self._table, _FULL_NAME) or "unnamed"

    @property
    def key(self) -> str:
        return f"{super().key}:" + ",".join(f"{tag}={value:g}" for tag, value in self._values)

    def varied(self, axes: tuple[tuple[str, float], ...]) -> OutlineFace:
        known = {axis.tag: axis for axis in self.axes}
        mine = tuple(sorted((tag, value) for tag, value in axes if tag in known))
        for tag, value in mine:
            axis = known[tag]
            if not axis.least <= value <= axis.most:
                raise FaceError(
                    f"{self.name} takes {axis.name} ({tag}) from {axis.least:g} to "
                    f"{axis.most:g}, not {value:g}"
                )
        if mine == self._values:
            return self
        other = copy(self)
        other.__dict__.pop("joined", None)
        other._set_values(mine)
        return other

    def glyph_outline(self, glyph: int) -> Outline:
        if glyph not in self._outlines:
            pen = OutlinePen()
            self._font.draw_glyph_with_pen(glyph, pen)
            self._outlines[glyph] = without_overlaps(pen.outline())
        return self._outlines[glyph]

    def shape(self, text: str, features: tuple[tuple[str, int], ...] = ()) -> ShapedText:
        # Words stay what they are while they are moved about.
        shaped = self._shaped.get((text, features))
        if shaped is None:
            if len(self._shaped) >= _MOST_SHAPED:
                self._shaped.clear()
            shaped = self._shaped[text, features] = self._shape(text, features)
        return shaped

    def _shape(self, text: str, features: tuple[tuple[str, int], ...]) -> ShapedText:
        clusters: list[Cluster] = []
        missing: list[MissingCharacter] = []
        wanted = _FEATURES | dict(features)
        for run in visual_runs(text):
            self._shape_run(text, run, wanted, clusters, missing)
        missing.sort(key=lambda character: character.index)
        return ShapedText(tuple(clusters), tuple(missing))

    def _shape_run(
        self,
        text: str,
        run: Run,
        features: dict[str, int],
        clusters: list[Cluster],
        missing: list[MissingCharacter],
    ) -> None:
        buffer = harfbuzz.Buffer()
        buffer.add_str(text, run.start, run.end - run.start)
        buffer.guess_segment_properties()
        buffer.direction = "rtl" if run.right_to_left else "ltr"
        harfbuzz.shape(self._font, buffer, features)
        starts = [info.cluster for info in buffer.glyph_infos]
        in_order = sorted(set(starts))
        end_of = dict(zip(in_order, [*in_order[1:], run.end], strict=True))
        glyphs: tuple[PlacedGlyph, ...] = ()
        advance = 0.0
        lacking = False
        rows = zip(
            buffer.glyph_infos, buffer.glyph_positions, starts, [*starts[1:], None], strict=True
        )
        for info, position, start, following in rows:
            if info.codepoint == _NOTDEF:
                lacking = True
            else:
                across, up = advance + position.x_offset, position.y_offset
                glyphs += self._placed(info.codepoint, across, up)
            advance += position.x_advance
            if start == following:
                continue
            part = text[start : end_of[start]]
            clusters.append(Cluster(part, start, glyphs, advance))
            if lacking:
                missing.extend(self._lacking(part, start))
            glyphs, advance, lacking = (), 0.0, False

    def _placed(self, glyph: int, x: float, y: float) -> tuple[PlacedGlyph, ...]:
        """One placed glyph; those at the origin, nearly all, are made once and shared."""
        if x or y:
            return (PlacedGlyph(glyph, float(x), float(y)),)
        if glyph not in self._at_origin:
            self._at_origin[glyph] = (PlacedGlyph(glyph, 0.0, 0.0),)
        return self._at_origin[glyph]

    def _lacking(self, part: str, start: int) -> list[MissingCharacter]:
        return [
            MissingCharacter(character, start + index)
            for index, character in enumerate(part)
            if not self._font.get_nominal_glyph(ord(character))
        ]

    # ---------------------------------------------------------------- measures

    def _measured(self, table: TTFont) -> Metrics:
        em = float(table["head"].unitsPerEm)
        os2 = table.get("OS/2")
        cap, cap_source = self._height(os2, "sCapHeight", "H", _CAP_SHARE, em)
        x, x_source = self._height(os2, "sxHeight", "x", _X_SHARE, em)
        ascender, descender = (
            float(getattr(os2, "sTypoAscender", 0)),
            float(getattr(os2, "sTypoDescender", 0)),
        )
        source = "OS/2 sTypo"
        if ascender <= 0.0:
            ascender, descender = float(table["hhea"].ascent), float(table["hhea"].descent)
            source = "hhea (OS/2 has none)"
        return Metrics(
            units_per_em=em,
            cap_height=cap,
            x_height=x,
            ascender=ascender,
            descender=descender,
            sources={
                "cap_height": cap_source,
                "x_height": x_source,
                "ascender": source,
                "descender": source,
            },
        )

    def _height(
        self, os2: object, field: str, letter: str, share: float, em: float
    ) -> tuple[float, str]:
        """A height from OS/2, else from the letter's outline, else a share of the em."""
        stated = float(getattr(os2, field, 0) or 0)
        if stated > 0.0:
            return stated, f"OS/2 {field}"
        glyph = self._font.get_nominal_glyph(ord(letter))
        if glyph and (outline := self.glyph_outline(glyph)):
            return outline.bounds()[3], f"measured on {letter} (OS/2 has no {field})"
        return share * em, f"{share:g} of the em (no {field}, no {letter})"


def _open(data: bytes) -> TTFont:
    try:
        table = TTFont(BytesIO(data), fontNumber=0, lazy=False)
        lacking = [tag for tag in _NEEDED if tag not in table]
        if lacking:
            raise FaceError(f"the font file has no {', '.join(lacking)} table")
        for tag in _NEEDED:
            table[tag]
        if not any(tag in table for tag in ("glyf", "CFF ", "CFF2")):
            raise FaceError("the font file has no outlines")
    except FaceError:
        raise
    except Exception as error:
        # fontTools raises whatever its struct and table code meets in broken bytes.
        raise _unreadable(error) from error
    return table


def _unreadable(error: Exception) -> FaceError:
    return FaceError(f"not a font file that can be read ({type(error).__name__})")


def _axes(table: TTFont) -> tuple[Axis, ...]:
    if "fvar" not in table:
        return ()
    return tuple(
        Axis(
            axis.axisTag,
            (_debug_name(table, axis.axisNameID) or axis.axisTag).lower(),
            axis.minValue,
            axis.defaultValue,
            axis.maxValue,
        )
        for axis in table["fvar"].axes
    )


def _debug_name(table: TTFont, name_id: int) -> str:
    """A name in a file's own table of them; empty where there is none."""
    return str(table["name"].getDebugName(name_id) or "") if "name" in table else ""


def _slant(table: TTFont) -> float:
    """How far the letters lean to the right, degrees.

    From the bytes of the table: reading it whole would read the names of all glyphs.
    """
    data = table.reader["post"] if "post" in table else b""
    return -int.from_bytes(data[4:8], "big", signed=True) / 65536.0 if len(data) >= 8 else 0.0


def _plain_bytes(table: TTFont, data: bytes) -> bytes:
    """The file as HarfBuzz takes it: WOFF and WOFF2 unpacked."""
    if table.flavor is None:
        return data
    table.flavor = None
    unpacked = BytesIO()
    table.save(unpacked)
    return unpacked.getvalue()
