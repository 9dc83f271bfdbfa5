"""Fonts to read, built here."""

from __future__ import annotations

import io
from pathlib import Path

from fontTools import subset
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

_WHEN = 3786912000
"""When the fonts here say that they were made, so that they are the same bytes each time."""
SVG_FONT = """<svg xmlns="http://www.w3.org/2000/svg"><defs>
<font horiz-adv-x="600"><font-face font-family="Twig" units-per-em="1000" ascent="800"
  descent="-200" cap-height="700"/>
<missing-glyph/><glyph unicode=" " horiz-adv-x="300"/>
<glyph unicode="I" horiz-adv-x="200" d="M100 0V700"/>
<glyph unicode="O" d="M50 350A250 350 0 1 1 550 350A250 350 0 1 1 50 350"/>
<glyph unicode="x" d="M50 0L350 500M350 0Q200 250 50 500"/></font></defs></svg>"""


def made_font(advance: int = 600, corner: int = 500, bits: int = 0) -> bytes:
    """A TrueType font of one square, built by fontTools."""
    builder = FontBuilder(1000, isTTF=True)
    builder.updateHead(created=_WHEN, modified=_WHEN)
    builder.setupGlyphOrder([".notdef", "A"])
    builder.setupCharacterMap({65: "A"})
    pen = TTGlyphPen(None)
    for place, point in enumerate([(0, 0), (0, 700), (corner, 700), (corner, 0)]):
        (pen.lineTo if place else pen.moveTo)(point)
    pen.closePath()
    builder.setupGlyf({".notdef": TTGlyphPen(None).glyph(), "A": pen.glyph()})
    builder.setupHorizontalMetrics({".notdef": (500, 0), "A": (advance, 0)})
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Square", "styleName": "Regular", "fullName": "Square"})
    builder.setupOS2(fsType=bits, sCapHeight=700, sTypoAscender=800, sTypoDescender=-200)
    builder.setupPost()
    data = io.BytesIO()
    builder.save(data)
    return data.getvalue()


def as_flavour(data: bytes, flavour: str) -> bytes:
    font = TTFont(io.BytesIO(data), recalcTimestamp=False)
    font.flavor = flavour
    out = io.BytesIO()
    font.save(out)
    return out.getvalue()


def few_of(path: Path, characters: str) -> bytes:
    """A font of a file with a few of its characters alone, and all that shapes them."""
    options = subset.Options(layout_features=["*"], recalc_timestamp=False, notdef_outline=True)
    font = subset.load_font(str(path), options)
    chosen = subset.Subsetter(options)
    chosen.populate(text=characters)
    chosen.subset(font)
    written = io.BytesIO()
    subset.save_font(font, written, options)
    font.close()
    return written.getvalue()
