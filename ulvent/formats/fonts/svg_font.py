"""Reading single-stroke faces from SVG fonts (SVG 1.1, chapter Fonts).

Glyphs are path data with y up, followed by a tool and never filled. Curves stay curves.
"""

from __future__ import annotations

from xml.etree.ElementTree import Element, ParseError

import svgelements
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from ulvent.core.base.errors import FaceError
from ulvent.core.faces import Metrics, StrokeFace, StrokeGlyph
from ulvent.core.outlines import Outline, OutlinePen

MOST_GLYPHS = 20_000
_X_SHARE, _CAP_SHARE = 0.5, 0.7

_LARGEST = 1e7


def read_svg_font(data: bytes, name: str) -> StrokeFace:
    """A stroke face from the bytes of an SVG font.

    Raises
    ------
    FaceError
        Naming what is missing, or the glyph that cannot be read.
    """
    try:
        root = fromstring(data, forbid_dtd=True)
    except (ParseError, DefusedXmlException, ValueError, LookupError) as error:
        raise FaceError(f"the SVG font cannot be read: {error}") from error
    fonts = [element for element in root.iter() if _tag(element) == "font"]
    if not fonts:
        raise FaceError("the SVG file holds no font")
    font = fonts[0]
    face = next((element for element in font if _tag(element) == "font-face"), None)
    if face is None:
        raise FaceError("the SVG font has no font-face element")
    usual = _number(font, "horiz-adv-x", None)
    glyphs: dict[str, StrokeGlyph] = {}
    for element in font:
        character = element.get("unicode", "")
        if _tag(element) != "glyph" or len(character) != 1:
            continue
        if len(glyphs) == MOST_GLYPHS:
            raise FaceError(f"the SVG font has more than {MOST_GLYPHS} glyphs")
        advance = _number(element, "horiz-adv-x", usual)
        if advance is None:
            raise FaceError(f"glyph “{character}” of the SVG font has no horiz-adv-x")
        glyphs[character] = StrokeGlyph(_strokes(element.get("d", ""), character), advance)
    return StrokeFace(face.get("font-family") or name, glyphs, _metrics(face, glyphs))


def _tag(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _number(element: Element, field: str, usual: float | None) -> float | None:
    text = element.get(field)
    if text is None:
        return usual
    try:
        number = float(text)
    except ValueError as error:
        raise FaceError(f"the SVG font's {field} is not a number: {text!r}") from error
    if not abs(number) <= _LARGEST:
        raise FaceError(f"the SVG font's {field} is larger than {_LARGEST:g}")
    return number


def _strokes(data: str, character: str) -> Outline:
    pen = OutlinePen()
    try:
        for part in svgelements.Path(data):
            if isinstance(part, svgelements.Arc):
                for cubic in part.as_cubic_curves():
                    pen.curveTo(*(_pair(p) for p in (cubic.control1, cubic.control2, cubic.end)))
            elif isinstance(part, svgelements.CubicBezier):
                pen.curveTo(*(_pair(p) for p in (part.control1, part.control2, part.end)))
            elif isinstance(part, svgelements.QuadraticBezier):
                pen.qCurveTo(_pair(part.control), _pair(part.end))
            elif isinstance(part, svgelements.Move):
                pen.moveTo(_pair(part.end))
            elif part.end is not None:
                pen.lineTo(_pair(part.end))
    except (ValueError, TypeError, IndexError, AttributeError, ZeroDivisionError) as error:
        raise FaceError(f"glyph “{character}” of the SVG font cannot be drawn") from error
    return pen.outline()


def _pair(point: svgelements.Point) -> tuple[float, float]:
    if not max(abs(point.x), abs(point.y)) <= _LARGEST:
        raise ValueError("a point is too far out")
    # Finer than any drawing is; specks would be no numbers once they are divided by.
    return (round(float(point.x), 6), round(float(point.y), 6))


def _metrics(face: Element, glyphs: dict[str, StrokeGlyph]) -> Metrics:
    em = _number(face, "units-per-em", 1000.0) or 1000.0
    sources: dict[str, str] = {}

    def height(field: str, letter: str, share: float) -> float:
        stated = _number(face, field, None)
        name = field.replace("-", "_")
        if stated and stated > 0.0:
            sources[name] = f"font-face {field}"
            return stated
        if letter in glyphs and glyphs[letter].outline:
            sources[name] = f"measured on {letter} (font-face has no {field})"
            return glyphs[letter].outline.bounds()[3]
        sources[name] = f"{share:g} of the em (no {field}, no {letter})"
        return share * em

    cap = height("cap-height", "H", _CAP_SHARE)
    x = height("x-height", "x", _X_SHARE)
    ascent, descent = _number(face, "ascent", None), _number(face, "descent", None)
    sources["ascender"] = "font-face ascent" if ascent else "0.8 of the em"
    sources["descender"] = "font-face descent" if descent else "0.2 of the em"
    return Metrics(
        units_per_em=em,
        cap_height=cap,
        x_height=x,
        ascender=ascent or 0.8 * em,
        descender=-abs(descent or 0.2 * em),
        sources=sources,
    )
