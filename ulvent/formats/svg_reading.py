"""Reading the outlines of an SVG file, in millimetres, y up.

A CSS pixel is 25.4/96 mm (CSS Values and Units); lengths with units, viewBox, transforms,
groups and `use` come through. Text, images and what is not shown are left out.

A file is not trusted: it is read by a parser that fetches nothing and expands no
entities, counted before it is built, and refused when it is too deep or too much.
"""

from __future__ import annotations

import io
from xml.etree.ElementTree import Element, ParseError

import defusedxml
import defusedxml.ElementTree
import svgelements

from ulvent.core.guides.pathdata import exact_segments
from ulvent.core.outlines import FileOutline, in_line
from ulvent.formats.outline_file import (
    MOST_ELEMENTS,
    Counted,
    OutlineFileError,
    refuse_unreadable_size,
)

MOST_CHARACTERS = 400_000
"""Of path data in all."""
DEEPEST = 60

_PIXEL = 25.4 / 96.0
_UNITS = {"file": _PIXEL, "mm": 1.0, "inch": 25.4}
"""Millimetres of a user unit; `file` is what the file says, pixels where it says nothing."""
_PARSER_ERRORS = (
    ArithmeticError,
    AssertionError,
    AttributeError,
    LookupError,
    RecursionError,
    TypeError,
    ValueError,
)


def read_svg(data: bytes, unit: str = "file") -> list[FileOutline]:
    """The outlines of an SVG file, in the order in which they are drawn.

    Parameters
    ----------
    unit
        `file`, or `mm` or `inch` for a user unit of a file that says nothing of units

    Raises
    ------
    OutlineFileError
        When the file is broken, empty, hostile or too large.
    """
    root = _checked(data)
    try:
        image = svgelements.SVG.parse(io.BytesIO(data), ppi=96.0, reify=True)
        shapes = [one for one in image.elements() if isinstance(one, svgelements.Shape)]
        scale = _PIXEL * _unit_error(root) if _says_units(root) else _UNITS[unit]
        outlines = _outlines(shapes, scale)
    except _PARSER_ERRORS as error:
        raise OutlineFileError("the file is not an SVG that can be read") from error
    if not outlines:
        raise OutlineFileError("the file has no lines in it; text must be outlines first")
    return outlines


def _checked(data: bytes) -> Element:
    refuse_unreadable_size(data)
    try:
        root: Element = defusedxml.ElementTree.fromstring(data, forbid_entities=True)
    except defusedxml.DefusedXmlException as error:
        raise OutlineFileError("the file declares entities, which are not read") from error
    except (ParseError, LookupError, ValueError) as error:
        raise OutlineFileError(f"the file is not XML: {error}") from error
    if not root.tag.endswith("svg"):
        raise OutlineFileError(f"the file is not an SVG: it holds <{_name(root)}>")
    _refuse_too_much(root)
    return root


def _refuse_too_much(root: Element) -> None:
    """Refuse what is too deep or grows too large when `use` is followed."""
    by_id: dict[str, Element] = {}
    characters = 0
    stack = [(root, 1)]
    while stack:
        element, depth = stack.pop()
        if depth > DEEPEST:
            raise OutlineFileError(f"groups are nested more than {DEEPEST} deep")
        if identifier := element.get("id"):
            by_id.setdefault(identifier, element)
        characters += sum(len(value) for value in element.attrib.values())
        stack.extend((child, depth + 1) for child in element)
    if characters > MOST_CHARACTERS:
        raise OutlineFileError("the file holds too much: take out what is not needed")
    sizes: dict[int, int] = {}

    def size(element: Element, above: tuple[int, ...]) -> int:
        """Elements that `element` comes to, those it uses included."""
        key = id(element)
        if key in above:
            raise OutlineFileError("the file uses a part of itself inside that part")
        if len(above) > DEEPEST:
            raise OutlineFileError(f"parts are used more than {DEEPEST} deep")
        if key not in sizes:
            total = 1 + sum(size(child, (*above, key)) for child in element)
            if _name(element) == "use":
                target = by_id.get(_reference(element))
                total += size(target, (*above, key)) if target is not None else 0
            sizes[key] = total
        if sizes[key] > MOST_ELEMENTS:
            raise OutlineFileError(f"the file comes to more than {MOST_ELEMENTS} elements")
        return sizes[key]

    size(root, ())


def _name(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _reference(element: Element) -> str:
    href = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
    return href.removeprefix("#")


def _says_units(root: Element) -> bool:
    """Whether the file says how large it is, so that its user units have a size."""
    width = (root.get("width") or "").strip().lower()
    return width.endswith(("mm", "cm", "in", "pt", "pc", "q", "px"))


def _unit_error(root: Element) -> float:
    """svgelements takes a millimetre as 0.0393701 in: what sets that right."""
    width = (root.get("width") or "").strip().lower()
    return 1.0 / (25.4 * 0.0393701) if width.endswith(("mm", "cm")) else 1.0


def _outlines(shapes: list[svgelements.Shape], scale: float) -> list[FileOutline]:
    found: list[FileOutline] = []
    counted = Counted()
    for shape in shapes:
        if shape.values.get("visibility") == "hidden" or shape.values.get("display") == "none":
            continue
        path = svgelements.Path(shape)
        path *= svgelements.Matrix.scale(scale, -scale)
        path.reify()
        for subpath in path.as_subpaths():
            segments = exact_segments(svgelements.Path(subpath))
            if not segments:
                continue
            counted.add(segments)
            found.append(in_line([segments]))
    return found
